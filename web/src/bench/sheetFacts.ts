/** What is printed beside a sheet: how it was flowed, and by what its readings were corrected. */
import type { Side } from '@alluvium/core';
import type { Sheet } from '@alluvium/records';

export function corrections(sheet: Sheet, sides: readonly Side[]): string[] {
  const { setup } = sheet;
  const off = sheet.rows
    .flatMap((r) => sides.map((s) => r[s]?.depression))
    .filter((d) => d && setup.depression && Math.abs(d.si - setup.depression.si) > 0.005 * setup.depression.si).length;
  return [
    setup.factor ? `the bench's factor ${setup.factor.typed}` : '',
    setup.intakeLeak ? `intake leak ${setup.intakeLeak.typed}` : '',
    setup.exhaustLeak ? `exhaust leak ${setup.exhaustLeak.typed}` : '',
    setup.meterTemperature && setup.portTemperature
      ? `temperature: meter ${setup.meterTemperature.typed}, port ${setup.portTemperature.typed}`
      : '',
    setup.depression ? `depression ${setup.depression.typed} to 28 in` : '',
    off > 0 ? `${off} ${off === 1 ? 'point' : 'points'} read off the set depression` : '',
  ].filter(Boolean);
}
export const facts = (sheet: Sheet): string[] => {
  const s = sheet.setup;
  return [
    s.depression?.typed ?? 'depression unknown',
    s.bore ? `${s.bore.typed} bore` : 'bore unknown',
    `${s.entry} entry`,
    `exhaust ${s.exhaustPipe}${s.pipeDiameter ? ` ${s.pipeDiameter.typed}` : ''}${s.pipeLength ? ` × ${s.pipeLength.typed}` : ''}`,
    `holes closed: ${s.holesClosed}`,
    `${s.valve} valves`,
    `${s.springs} springs`,
    `gasket ${s.gasket}`,
    s.portKind,
  ].filter(Boolean);
};
