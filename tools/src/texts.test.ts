import { describe, expect, it } from 'vitest';
import { saidInComponent, saidInScript } from './texts.js';

describe('the list of texts', () => {
  it('holds what a script says, with figures left open; not what it says to itself', () => {
    expect(
      saidInScript(`
        import { x } from './a module.js';
        const key = 'alluvium.theme';
        const sql = \`select id from head where name = 'a b'\`;
        const said = \`\${n} sheets are left out: \${why}.\`;
        throw new Error("The plate must have a size above zero.");
      `),
    ).toEqual(['… sheets are left out: ….', 'The plate must have a size above zero.']);
  });
  it('holds what a component shows: texts, labels, and strings of its expressions', () => {
    expect(
      saidInComponent(`<script setup lang="ts">
        const note = 'Nothing is kept yet.';
        </script>
        <template>
          <p class="two words" title="Open the sheet">Least area, {{ ok ? 'as it was read' : note }}</p>
          <x-field label="Bore" :problem="'Type a bore above zero.'" />
        </template>`),
    ).toEqual([
      'Open the sheet',
      'Least area,',
      'as it was read',
      'Bore',
      'Type a bore above zero.',
      'Nothing is kept yet.',
    ]);
  });
});
