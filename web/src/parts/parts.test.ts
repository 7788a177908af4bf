import { flushPromises } from '@vue/test-utils';
import { afterEach, describe, expect, it } from 'vitest';
import { mounted, type Mounted } from '../test/mounted.js';
import ChoiceField from './ChoiceField.vue';
import ChoiceRow from './ChoiceRow.vue';
import EmptyNote from './EmptyNote.vue';
import FilePick from './FilePick.vue';
import StepLine from './StepLine.vue';
import TabRow from './TabRow.vue';
import TextField from './TextField.vue';

let part: Mounted;
afterEach(() => part.unmount());
/** Shows a part that keeps what is chosen in it. */
async function show(component: object, props: Record<string, unknown>, slot?: string): Promise<void> {
  part = mounted(component as never, {
    props: { 'onUpdate:modelValue': (modelValue: unknown) => void part.setProps({ modelValue }), ...props },
    ...(slot ? { slots: { default: slot } } : {}),
  });
  await flushPromises();
}
const OPTIONS = [
  ['river', 'river'],
  ['walls', 'walls'],
  ['pour', 'pour'],
] as const;

describe('a row of a form', () => {
  it('names its field, marks what must be given, and says what is wrong where it stands', async () => {
    await show(TextField, { modelValue: '', label: 'Name', required: true });
    const input = part.find('input');
    expect(part.find('label').attributes('for')).toBe(input.attributes('id'));
    expect(part.find('.is-required').exists()).toBe(true);
    expect(input.attributes('aria-required')).toBe('true');
    expect(part.find('[role=alert]').exists()).toBe(false);
    await part.setProps({ problem: 'Give it a name.' });
    expect(part.find('[role=alert]').text()).toBe('Give it a name.');
    expect(input.attributes('aria-describedby')).toBe(part.find('[role=alert]').attributes('id'));
    expect(part.find('.is-error').exists()).toBe(true);
    await part.setProps({ problem: '' });
    expect(part.find('.is-error').exists()).toBe(false);
  });
  it('a list says the same of itself', async () => {
    await show(ChoiceField, { modelValue: 'river', label: 'Pane', options: OPTIONS, problem: 'Not here.' });
    const input = part.find('input');
    expect(part.find('label').attributes('for')).toBe(input.attributes('id'));
    expect(part.find('[role=alert]').text()).toBe('Not here.');
  });
});

describe('a row of tabs', () => {
  const tab = (name: string) => part.findAll('[role=tab]').find((t) => t.text() === name)!;
  const key = async (name: string, pressed: string) => {
    await tab(name).trigger('keydown', { key: pressed, code: pressed });
    await flushPromises();
  };
  it('changes what is shown by press, arrows, Home and End; one stop of the Tab key', async () => {
    await show(TabRow, { modelValue: 'river', label: 'What is shown', options: OPTIONS });
    expect(part.find('[role=tablist]').exists()).toBe(true);
    await tab('walls').trigger('click');
    await flushPromises();
    expect(part.props('modelValue')).toBe('walls');
    await key('walls', 'ArrowRight');
    expect(part.props('modelValue')).toBe('pour');
    await key('pour', 'Home');
    expect(part.props('modelValue')).toBe('river');
    expect(document.activeElement).toBe(tab('river').element);
    await key('river', 'End');
    expect(part.props('modelValue')).toBe('pour');
    expect(part.findAll('[role=tab]').filter((t) => t.attributes('tabindex') === '0')).toHaveLength(1);
  });
  it('Enter presses the tab that has the focus', async () => {
    await show(TabRow, { modelValue: 'river', label: 'What is shown', options: OPTIONS });
    await key('walls', 'Enter');
    expect(part.props('modelValue')).toBe('walls');
    expect(tab('walls').attributes('aria-selected')).toBe('true');
  });
});

describe('a row of which one is chosen', () => {
  it('is a group of radio buttons with a name', async () => {
    await show(ChoiceRow, { modelValue: 'river', label: 'Which', options: OPTIONS });
    expect(part.find('[role=radiogroup]').attributes('aria-label')).toBe('Which');
    const [, second] = part.findAll('input[type=radio]');
    await second!.setValue(true);
    expect(part.props('modelValue')).toBe('walls');
  });
});

describe('files from this device', () => {
  const give = async (...names: string[]) => {
    const input = part.find<HTMLInputElement>('input[type=file]');
    const files = names.map((name) => new File(['x'], name));
    Object.defineProperty(input.element, 'files', { value: files, configurable: true });
    await input.trigger('change');
    await flushPromises();
  };
  it('come together, as they were chosen; the same one may be chosen again', async () => {
    const taken: string[][] = [];
    await show(FilePick, { accept: '.csv', multiple: true, onFiles: (f: File[]) => taken.push(f.map((x) => x.name)) });
    await give('a.csv', 'b.csv');
    await give('a.csv');
    expect(taken).toEqual([['a.csv', 'b.csv'], ['a.csv']]);
  });
  it('one only where one is asked; straight from the camera where that is asked', async () => {
    const taken: string[][] = [];
    await show(FilePick, { accept: 'image/*', camera: true, onFiles: (f: File[]) => taken.push(f.map((x) => x.name)) });
    await give('a.jpg', 'b.jpg');
    expect(taken).toEqual([['a.jpg']]);
    expect(part.find('input').attributes('capture')).toBe('environment');
  });
});

describe('what is on the way, and what is none', () => {
  it('steps: those done, the one at hand, those to come', async () => {
    await show(StepLine, { steps: ['Photo', 'Scale', 'Outline'], at: 1 });
    expect(part.findAll('.el-step__title').map((t) => t.classes().at(-1))).toEqual([
      'is-success',
      'is-process',
      'is-wait',
    ]);
  });
  it('nothing says why, and the way on', async () => {
    await show(EmptyNote, {}, 'No matches.');
    expect(part.text()).toBe('No matches.');
  });
});
