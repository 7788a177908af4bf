import type { SimulationSetup, Trace } from '@alluvium/core';
import { toCsv } from '@alluvium/records';
import { download } from '../charts/save.js';
import type { Curve } from './useSweep.js';

// t.lift[][]!, t.flow[][]!, t.port[][]!, t.pressure[]!, t.volume[]!, t.temperature[]!, t.burned[]!, t.chokeMach[]!: a trace's lists are equally long.

/** No more figures than a simulation has. */
const cell = (v: string | number): string | number => (typeof v === 'number' ? Number(v.toPrecision(6)) : v);

/** Every curve with its range and everything it assumes, in SI, so that others can check it. */
export function sweepCsv(
  heads: readonly { readonly name: string; readonly setup: SimulationSetup; readonly curve: Curve }[],
): string {
  const rows: (string | number)[][] = [
    [
      'head',
      'speed_rpm',
      'torque_Nm',
      'low_Nm',
      'high_Nm',
      'power_W',
      'volumetric_efficiency',
      'bmep_Pa',
      'choke_mach',
      'residual',
      'fmep_Pa',
      'pmep_Pa',
    ],
  ];
  for (const h of heads) {
    h.curve.points.forEach((p, k) => {
      const band = h.curve.band?.[k];
      rows.push([
        h.name,
        p.speed * 60,
        p.torque,
        band?.low ?? '',
        band?.high ?? '',
        p.power,
        p.volumetricEfficiency,
        p.bmep,
        p.chokeMach,
        p.residual,
        p.fmep,
        p.pmep,
      ]);
    });
    for (const f of h.curve.failed) rows.push([h.name, f.speed * 60, f.reason]);
  }
  rows.push([], ['head', 'assumed', 'value_SI', 'within_SI', 'from']);
  for (const h of heads) for (const a of h.setup.assumed) rows.push([h.name, a.label, a.value, a.half, a.note]);
  for (const h of heads) for (const s of h.setup.said) rows.push([h.name, s]);
  return toCsv(rows.map((r) => r.map(cell)));
}

export const saveSweep = (name: string, heads: Parameters<typeof sweepCsv>[0]): void =>
  download(`${name}.csv`, sweepCsv(heads), 'text/csv');

/** Cycles crank angle by crank angle, in SI. */
export function cycleCsv(traces: readonly { readonly name: string; readonly trace: Trace }[]): string {
  const rows: (string | number)[][] = [
    [
      'head',
      'crank_deg',
      'intake_lift_m',
      'exhaust_lift_m',
      'intake_flow_kg_s',
      'exhaust_flow_kg_s',
      'cylinder_Pa',
      'volume_m3',
      'temperature_K',
      'burned',
      'intake_port_Pa',
      'exhaust_port_Pa',
      'choke_mach',
    ],
  ];
  for (const { name, trace: t } of traces)
    t.angle.forEach((a, i) =>
      rows.push([
        name,
        (a * 180) / Math.PI,
        t.lift[0][i]!,
        t.lift[1][i]!,
        t.flow[0][i]!,
        t.flow[1][i]!,
        t.pressure[i]!,
        t.volume[i]!,
        t.temperature[i]!,
        t.burned[i]!,
        t.port[0][i]!,
        t.port[1][i]!,
        t.chokeMach[i]!,
      ]),
    );
  return toCsv(rows.map((r) => r.map(cell)));
}

export const saveCycle = (name: string, traces: Parameters<typeof cycleCsv>[0]): void =>
  download(`${name}.csv`, cycleCsv(traces), 'text/csv');
