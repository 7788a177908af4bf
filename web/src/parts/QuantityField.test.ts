import { inches } from '@alluvium/core';
import { afterEach, describe, expect, it } from 'vitest';
import { nextTick } from 'vue';
import { useSettings } from '../state/settings.js';
import { mounted } from '../test/mounted.js';
import QuantityField from './QuantityField.vue';

let field: ReturnType<typeof mounted>;
afterEach(() => field.unmount());

function show(props: Record<string, unknown> = {}) {
  field = mounted(QuantityField, {
    props: {
      modelValue: null,
      kind: 'lift',
      label: 'Lift',
      'onUpdate:modelValue': (q: unknown) => field.setProps({ modelValue: q }),
      ...props,
    },
  });
  return field;
}
const type = async (text: string) => {
  await field.find('input').setValue(text);
  await nextTick();
};

describe('a quantity field', () => {
  it('names itself and shows its unit while empty', async () => {
    show();
    await nextTick();
    expect(field.find('label').text()).toBe('Lift');
    expect(field.find('input').attributes('placeholder')).toBe('in');
    expect(field.find('label').attributes('for')).toBe(field.find('input').attributes('id'));
  });

  it('understands what is typed and keeps the text until it is left', async () => {
    show();
    await type('450');
    expect(field.props('modelValue')).toEqual({ si: expect.closeTo(inches(0.45), 12), typed: '.450 in' });
    expect(field.find('input').element.value).toBe('450');
    await field.find('input').trigger('blur');
    await nextTick();
    await nextTick();
    expect(field.find('input').element.value).toBe('.450 in');
  });

  it('takes a share of what it is of, and writes it as a size', async () => {
    show({ kind: 'length', label: 'Throat', shareOf: inches(2.08) });
    await type('90.3 %');
    expect(field.props('modelValue')).toEqual({ si: expect.closeTo(inches(1.878), 9), typed: '1.878 in' });
    await type('90,3%');
    expect(field.props('modelValue')).toMatchObject({ typed: '1.878 in' });
    await type('1.9');
    expect(field.props('modelValue')).toMatchObject({ typed: '1.9 in' });
    // Where a share means nothing it is refused like any other text.
    field.unmount();
    show({ kind: 'length', label: 'Bore' });
    await type('90.3 %');
    expect(field.text()).toContain('is not a unit of length');
  });

  it('says in the units shown what was understood of another unit', async () => {
    show();
    await type('11.4mm');
    expect(field.text()).toContain('.449 in');
    useSettings().system = 'metric';
    await nextTick();
    expect(field.text()).not.toContain('.449 in');
    useSettings().system = 'inch';
  });

  it('keeps the old value while the text cannot be read, and says why at the field', async () => {
    const value = { si: inches(0.4), typed: '.400 in' };
    show({ modelValue: value });
    expect(field.find('input').element.value).toBe('.400 in');
    await type('abc');
    expect(field.find('[role=alert]').text()).toBe('“abc” is not a lift. Type it like 450, .450 or 11.4 mm.');
    expect(field.find('input').attributes('aria-invalid')).toBe('true');
    expect(field.find('input').attributes('aria-describedby')).toBe(field.find('[role=alert]').attributes('id'));
    expect(field.props('modelValue')).toEqual(value);
    expect(field.emitted('update:problem')!.at(-1)).toEqual([expect.stringContaining('is not a lift')]);
    await type('410');
    expect(field.find('[role=alert]').exists()).toBe(false);
    expect(field.emitted('update:problem')!.at(-1)).toEqual(['']);
  });

  it('empty is nothing, unless it is needed', async () => {
    show({ modelValue: { si: 1, typed: '1 in' } });
    await type('');
    expect(field.props('modelValue')).toBeNull();
    expect(field.find('[role=alert]').exists()).toBe(false);
    field.unmount();
    show({ required: true, modelValue: { si: 1, typed: '1 in' } });
    await type('');
    expect(field.find('[role=alert]').text()).toBe('Lift: type a value.');
  });

  it('shows what the server or the schema says', () => {
    show({ problem: 'Valve lift must lie between .060 and 2.000 in.' });
    expect(field.find('[role=alert]').text()).toContain('between .060 and 2.000 in');
  });
});
