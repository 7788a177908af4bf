<script setup lang="ts">
import { format, formatNumber, meanOfPulls, portSpread, scatter, unitFor, work, type Side } from '@alluvium/core';
import {
  booksOf,
  evaluateSheetOf,
  gapsOf,
  portName,
  scoredCalls,
  swirlOf,
  type RawReading,
  type Sheet,
  type WholeHead,
  type WholeSession,
} from '@alluvium/records';
import { computed } from 'vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useJudging } from '../data/judging.js';
import { useSettings } from '../state/settings.js';
import OwedList from './OwedList.vue';
import WideFrame from '../parts/WideFrame.vue';

/** What came of a session: its sheets, how the ports differ, what was corrected by what, every raw reading, what is owed. */
const props = defineProps<{ whole: WholeSession; head: WholeHead }>();
const settings = useSettings();
const judging = useJudging();
const { sides } = props.whole.session.plan;

const sheets = computed(() =>
  props.whole.sheets.map((sheet) => {
    const result = evaluateSheetOf(props.head, sheet);
    const { flow: book } = booksOf(props.head, [sheet], judging.value);
    const rows = [...new Set([...result.intake.points, ...result.exhaust.points].map((p) => p.lift))]
      .sort((a, b) => a - b)
      .map((lift) => ({
        lift,
        intake: result.intake.points.find((p) => p.lift === lift),
        exhaust: result.exhaust.points.find((p) => p.lift === lift),
        ratio: result.ratios.find((r) => r.lift === lift)?.ratio,
        swirl: swirlOf(sheet).points.find((s) => Math.abs(s.lift - lift) < 1e-5)?.speed,
        missing: sheet.rows.find((r) => Math.abs(r.lift.si - lift) < 1e-5)?.missing ?? '',
      }));
    const missing = sheet.rows.filter((r) => r.missing && !r.intake && !r.exhaust);
    return { sheet, result, book, rows, missing, turns: swirlOf(sheet).reversals };
  }),
);

/** Port against port at each lift: how far they lie apart. */
const ports = computed(() => {
  const bySide = (side: Side) => {
    const lifts = new Map<number, number[]>();
    for (const s of sheets.value)
      for (const p of s.result[side].points) {
        const key = Math.round(p.lift * 1e6);
        lifts.set(key, [...(lifts.get(key) ?? []), p.flow.value]);
      }
    return [...lifts]
      .filter(([, flows]) => flows.length > 1)
      .sort(([a], [b]) => a - b)
      .map(([key, flows]) => {
        return {
          lift: key / 1e6,
          mean: work(meanOfPulls, { pulls: flows }),
          range: work(portSpread, { flows }),
          scatter: work(scatter, { pulls: flows }),
        };
      });
  };
  return sides.map((side) => ({ side, rows: bySide(side) })).filter((s) => s.rows.length > 0);
});

function corrections(sheet: Sheet): string[] {
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
const facts = (sheet: Sheet): string[] => {
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

const call = computed(() => props.whole.calls.at(-1));
const scores = computed(() =>
  call.value && props.whole.session.finished ? scoredCalls(call.value, props.whole.sheets) : [],
);
const readings = computed(() => [...props.whole.readings].sort((a, b) => b.at.localeCompare(a.at)));
const gapAfter = computed(() => new Map(gapsOf(props.whole.readings).map((g) => [g.after.id, g.seconds])));
const liftOf = (r: RawReading) => format(r.lift.si, 'lift', settings.figures);
const cfmUnit = computed(() => unitFor('flow', settings.system).symbol);
const print = () => window.print();
</script>

<template>
  <div class="result">
    <OwedList class="no-print" :whole="whole" />
    <p v-if="scores.length" class="reading">
      <template v-for="s in scores" :key="s.side">
        {{ call?.who || 'The call' }} said {{ s.called.typed }} {{ s.side }}:
        <WorkedNumber :working="s.error" :digits="1" signed />
        off.
      </template>
      {{ call?.worst ? `Worst place called: ${call.worst}.` : '' }}
    </p>
    <p v-if="sheets.length === 0" class="reading">Nothing is recorded yet.</p>
    <p v-else class="no-print"><el-button link @click="print">Print for the wall</el-button></p>

    <section v-for="s in sheets" :key="s.sheet.id" class="sheet">
      <h2>
        {{ head.head.name }} · {{ s.sheet.title }}
        <RouterLink class="no-print" :to="{ name: 'head', params: { id: head.head.id }, query: { sheet: s.sheet.id } }">
          Open the sheet
        </RouterLink>
      </h2>
      <p class="note">
        {{ [portName(head.ports, s.sheet.intakePortId), s.sheet.date, ...facts(s.sheet)].filter(Boolean).join(' · ') }}
      </p>
      <WideFrame>
        <table class="ruled">
          <thead>
            <tr>
              <th>lift</th>
              <template v-for="side in sides" :key="side">
                <th class="num">{{ side }}, {{ cfmUnit }} at 28</th>
                <th class="num">spread</th>
              </template>
              <th v-if="sides.length > 1" class="num">E/I</th>
              <th v-if="s.sheet.swirl.length" class="num">swirl, rpm</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in s.rows" :key="r.lift">
              <td>{{ format(r.lift, 'lift', settings.figures) }}</td>
              <template v-for="side in sides" :key="side">
                <td class="num"><WorkedNumber :working="r[side]?.flow ?? null" :book="s.book" terse bare /></td>
                <td class="num quiet">
                  {{
                    r[side]?.spread === undefined ? '' : `±${formatNumber(r[side].spread, 'flow', settings.figures)}`
                  }}
                </td>
              </template>
              <td v-if="sides.length > 1" class="num">
                <WorkedNumber :working="r.ratio ?? null" :book="s.book" terse :digits="0" />
              </td>
              <td v-if="s.sheet.swirl.length" class="num">
                {{ r.swirl === undefined ? '' : formatNumber(r.swirl, 'rotation', 'inch', { signed: true }) }}
              </td>
              <td class="note">
                {{ [r.intake?.noisy || r.exhaust?.noisy ? 'noisy' : '', r.missing].filter(Boolean).join('; ') }}
              </td>
            </tr>
          </tbody>
        </table>
      </WideFrame>
      <p v-for="m in s.missing" :key="m.lift.si" class="note">{{ m.lift.typed }}: {{ m.missing }}</p>
      <p v-if="s.turns.length" class="reading">
        The swirl turns round at {{ s.turns.map((l) => format(l, 'lift', settings.figures)).join(' and ') }}.
      </p>
      <p class="note">Corrected by {{ corrections(s.sheet).join(', ') || 'nothing: no depression is known' }}.</p>
    </section>

    <section v-for="p in ports" :key="p.side">
      <h2>Port against port, {{ p.side }}</h2>
      <WideFrame>
        <table class="ruled spread">
          <thead>
            <tr>
              <th>lift</th>
              <th class="num">mean, {{ cfmUnit }}</th>
              <th class="num">port-to-port spread</th>
              <th class="num">spread</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in p.rows" :key="r.lift">
              <td>{{ format(r.lift, 'lift', settings.figures) }}</td>
              <td class="num"><WorkedNumber :working="r.mean" bare /></td>
              <td class="num"><WorkedNumber :working="r.range" bare /></td>
              <td class="num"><WorkedNumber :working="r.scatter" bare :digits="2" /></td>
            </tr>
          </tbody>
        </table>
      </WideFrame>
    </section>

    <details v-if="readings.length" class="no-print">
      <summary>Every raw reading ({{ readings.length }})</summary>
      <WideFrame>
        <table class="ruled">
          <thead>
            <tr>
              <th>time</th>
              <th>port</th>
              <th>lift</th>
              <th class="num">read</th>
              <th>range</th>
              <th class="num">depression</th>
              <th class="num">scatter</th>
              <th class="num">swirl</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in readings" :key="r.id" :class="{ aside: r.state !== 'kept' }">
              <td>{{ r.at.slice(11, 19) }}</td>
              <td>{{ r.number }} {{ r.side }}{{ r.pull ? `, pull ${r.pull + 1}` : '' }}</td>
              <td>{{ liftOf(r) }}</td>
              <td class="num">{{ r.percent?.typed ?? r.flow?.typed ?? '' }}</td>
              <td>{{ r.range ?? '' }}</td>
              <td class="num">{{ r.depression?.typed ?? '' }}</td>
              <td class="num">
                {{
                  r.spread === null
                    ? ''
                    : `${settings.say.number(r.spread * 100, 2)} % of ${r.samples.length} in ${r.seconds} s`
                }}
              </td>
              <td class="num">{{ r.swirl?.typed ?? '' }}</td>
              <td class="note">
                {{
                  [
                    r.state === 'kept' ? '' : r.state,
                    r.skipped && `skipped: ${r.skipped}`,
                    r.noisy ? 'noisy' : '',
                    r.setup > 0 ? `set-up ${r.setup + 1}` : '',
                    gapAfter.has(r.id) ? `then a gap of ${Math.round(gapAfter.get(r.id)! / 60)} min` : '',
                  ]
                    .filter(Boolean)
                    .join('; ')
                }}
              </td>
            </tr>
          </tbody>
        </table>
      </WideFrame>
    </details>
  </div>
</template>

<style scoped>
.result {
  max-width: 1010px;
}
section {
  margin-top: 18px;
}
h2 a {
  font-weight: 400;
  font-size: 14px;
  margin-left: 10px;
}
.spread {
  max-width: 520px;
}
.aside {
  color: var(--slate);
  text-decoration: line-through;
}
summary {
  cursor: pointer;
  margin-top: 18px;
}
@media print {
  .sheet {
    break-inside: avoid;
    font-size: 17px;
  }
}
</style>
