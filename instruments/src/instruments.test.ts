import {
  REFERENCE_DEPRESSION,
  cfm,
  idealVelocity,
  inches,
  minimumAreaOfValve,
  normal,
  random,
  REFERENCE_DENSITY,
  steadiness,
} from '@alluvium/core';
import type { Command } from '@alluvium/records';
import { InstrumentSays, readLine } from '@alluvium/records';
import { describe, expect, it } from 'vitest';
import {
  A_HEAD,
  IDEAL_TRAITS,
  RANGES,
  RATE,
  STAND_INS,
  USUAL_TRAITS,
  World,
  portFactor,
  stand,
  trueFlow,
  trueSwirl,
  trueVelocity,
  type StandIn,
} from './index.js';

const lifts = [0.05, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6].map(inches);

describe('the pretended head', () => {
  it('never beats its own geometry, and its coefficient falls with lift', () => {
    const velocity = idealVelocity.compute({ depression: REFERENCE_DEPRESSION, density: REFERENCE_DENSITY });
    for (const side of ['intake', 'exhaust'] as const) {
      const onCurtain = lifts.map((lift) => {
        const v = A_HEAD[side];
        const flow = trueFlow(A_HEAD, side, lift);
        expect(flow).toBeLessThan(minimumAreaOfValve({ ...v, lift }).area * velocity);
        expect(flow).toBeLessThan(v.choke * velocity);
        return flow / (Math.PI * v.diameter * lift * velocity);
      });
      expect(onCurtain.slice(1).every((c, i) => c < onCurtain[i]!)).toBe(true);
    }
  });
  it('backs up beyond its lift ratio, and a shut valve passes nothing', () => {
    const top = Math.max(...lifts.map((l) => trueFlow(A_HEAD, 'intake', l)));
    expect(trueFlow(A_HEAD, 'intake', inches(0.75))).toBeLessThan(top);
    expect(trueFlow(A_HEAD, 'intake', 0)).toBe(0);
  });
  it('has ports that differ by up to two in a hundred, always in the same way', () => {
    const factors = [1, 2, 3, 4, 5, 6].map((port) => portFactor({ ...A_HEAD, port }, 'intake'));
    expect(new Set(factors).size).toBe(6);
    expect(factors.every((f) => Math.abs(f - 1) <= 0.02)).toBe(true);
    expect(portFactor({ ...A_HEAD, port: 4 }, 'intake')).toBe(factors[3]);
  });
  it('turns its swirl round at low lift; dead at the floor centre', () => {
    expect(trueSwirl(A_HEAD, inches(0.08))).toBeLessThan(0);
    expect(trueSwirl(A_HEAD, inches(0.4))).toBeGreaterThan(0);
    expect(trueVelocity(A_HEAD, inches(0.4), 0.5, 0.95)).toBeLessThan(
      0.4 * trueVelocity(A_HEAD, inches(0.4), 0.7, 0.25),
    );
  });
  it('random numbers are those of their seed, and normal ones are normal', () => {
    const [a, b] = [random(5), random(5)];
    expect(Array.from({ length: 5 }, a)).toEqual(Array.from({ length: 5 }, b));
    const draws = Array.from({ length: 20_000 }, () => normal(a));
    const mean = draws.reduce((s, d) => s + d, 0) / draws.length;
    expect(mean).toBeCloseTo(0, 1);
    expect(draws.reduce((s, d) => s + (d - mean) ** 2, 0) / draws.length).toBeCloseTo(1, 1);
  });
});

/** Runs a world for some seconds and gives the readings of the last two. */
function watch(world: World, seconds: number, read: (w: World) => number): number[] {
  const values: number[] = [];
  for (let i = 0; i < seconds * RATE; i++) {
    world.pass(1 / RATE);
    values.push(read(world));
  }
  return values.slice(-2 * RATE);
}
const mean = (values: number[]) => values.reduce((s, v) => s + v, 0) / values.length;
const full = (name: string) => RANGES.find((r) => r.name === name)!.intake;

describe('the pretended bench', () => {
  it('settles at the truth when it is clean, within half a percent', () => {
    for (const lift of lifts) {
      const world = new World(IDEAL_TRAITS);
      world.liftWanted = lift;
      const shown = mean(watch(world, 6, (w) => w.reading())) * full(world.range);
      expect(shown / trueFlow(world.head, 'intake', lift)).toBeCloseTo(1, 3);
    }
  });
  it('shows the leak, the noise and the warming when it is not', () => {
    const world = new World({ ...USUAL_TRAITS, surges: [] }, 3);
    expect(mean(watch(world, 6, (w) => w.reading())) * full('4')).toBeCloseTo(USUAL_TRAITS.leak, 5);
    world.liftWanted = inches(0.4);
    const shown = watch(world, 8, (w) => w.reading());
    const state = steadiness(shown.map((value, i) => ({ at: i / RATE, value })));
    expect(state.spread / state.mean).toBeGreaterThan(0.001);
    expect(state.spread / state.mean).toBeLessThan(0.003);
    const truth = trueFlow(world.head, 'intake', inches(0.4)) + USUAL_TRAITS.leak;
    expect((mean(shown) * full('4')) / truth).toBeCloseTo(1, 2);
  });
  it('surges where it is told to', () => {
    const world = new World({ ...IDEAL_TRAITS, surges: [inches(0.35)] });
    const scatter = (lift: number) => {
      world.liftWanted = lift;
      return steadiness(watch(world, 6, (w) => w.reading()).map((value, i) => ({ at: i / RATE, value })));
    };
    expect(scatter(inches(0.35)).state).toBe('settling');
    expect(scatter(inches(0.3)).spread).toBeLessThan(1e-4);
  });
  it('does not hold the depression when the blower is small, and the flow follows the root of it', () => {
    const world = new World({ ...IDEAL_TRAITS, blower: { pressure: REFERENCE_DEPRESSION * 2, flow: cfm(220) } });
    world.liftWanted = inches(0.5);
    const flow = mean(watch(world, 6, (w) => w.reading())) * full('4');
    const held = world.depressionNow();
    expect(held).toBeLessThan(0.97 * REFERENCE_DEPRESSION);
    expect(flow / Math.sqrt(held / REFERENCE_DEPRESSION)).toBeCloseTo(trueFlow(world.head, 'intake', inches(0.5)), 5);
  });
  it('turns the opener no faster than a motor does', () => {
    const world = new World(IDEAL_TRAITS);
    world.liftWanted = inches(0.4);
    world.pass(0.5);
    expect(world.lift).toBeCloseTo(inches(0.2), 9);
    world.pass(5);
    expect(world.lift).toBeCloseTo(inches(0.4), 12);
  });
});

describe('a stand-in', () => {
  function begin(name: StandIn, world = new World(IDEAL_TRAITS)) {
    const sent: string[] = [];
    let cuts = 0;
    const me = stand(
      STAND_INS[name],
      world,
      (line) => sent.push(line),
      () => cuts++,
    );
    return {
      world,
      sent,
      me,
      order: (c: Command) => me.take(JSON.stringify(c)),
      last: () => readLine(InstrumentSays, sent.at(-1)!),
      cuts: () => cuts,
    };
  }

  it.each(Object.keys(STAND_INS) as StandIn[])(
    '%s says what it is by the protocol, and every line it sends is of it',
    (name) => {
      const s = begin(name);
      expect(s.last()).toMatchObject({ message: { say: 'hello', simulated: true } });
      s.order({ do: 'stream', on: true });
      s.world.liftWanted = inches(0.4);
      s.world.pass(3);
      s.me.tick(1);
      s.order({ do: 'read', id: 4, name: 'x', near: 0.04 });
      for (const line of s.sent) expect(readLine(InstrumentSays, line)).toHaveProperty('message');
    },
  );
  it('is silent until it is asked to stream', () => {
    const s = begin('bench');
    s.me.tick(1);
    expect(s.sent).toHaveLength(1);
    s.order({ do: 'stream', on: true });
    s.me.tick(2);
    expect(s.last()).toMatchObject({ message: { say: 'sample', at: 2, range: '4', direction: 'intake' } });
  });
  it('obeys: range, direction, depression, lift, probe, head', () => {
    const s = begin('bench');
    s.order({ do: 'range', to: '3' });
    s.order({ do: 'range', to: 'no such' });
    s.order({ do: 'direction', to: 'exhaust' });
    s.order({ do: 'depression', to: 2500 });
    s.order({ do: 'mount', head: { ...A_HEAD, port: 5 } });
    expect(s.world).toMatchObject({ range: '3', side: 'exhaust', depressionSet: 2500, head: { port: 5 } });
    const dial = begin('dial', s.world);
    dial.order({ do: 'lift', to: 0.9 });
    expect(s.world.liftWanted).toBe(0.0254);
    const pitot = begin('pitot', s.world);
    pitot.order({ do: 'probe', x: 0.2, y: 0.9 });
    pitot.order({ do: 'stream', on: true });
    pitot.me.tick(1);
    expect(pitot.last()).toMatchObject({ message: { say: 'sample', probe: { x: 0.2, y: 0.9 } } });
  });
  it('a swirl meter that stands still gives no signal', () => {
    const s = begin('swirl');
    s.order({ do: 'stream', on: true });
    s.me.tick(1);
    expect(s.sent).toHaveLength(1);
  });
  it('hand instruments answer near what they are held to', () => {
    const s = begin('calipers', new World(USUAL_TRAITS, 2));
    s.order({ do: 'read', id: 9, name: 'length', near: 0.05 });
    const answer = s.last() as { message: { id: number; value: number } };
    expect(answer.message.id).toBe(9);
    expect(Math.abs(answer.message.value - 0.05)).toBeLessThan(0.0001);
  });
  describe('faults', () => {
    it('freeze repeats itself, clear goes on', () => {
      const s = begin('bench', new World(USUAL_TRAITS, 4));
      s.order({ do: 'stream', on: true });
      s.order({ do: 'fault', fault: 'freeze' });
      const values = () => {
        s.world.pass(0.05);
        s.me.tick(1);
        return (s.last() as { message: { values: object } }).message.values;
      };
      expect(values()).toEqual(values());
      s.order({ do: 'fault', fault: 'none' });
      s.world.liftWanted = inches(0.3);
      expect(values()).not.toEqual(values());
    });
    it('nonsense makes no sense to the reader of the protocol', () => {
      const s = begin('bench');
      s.order({ do: 'stream', on: true });
      s.order({ do: 'fault', fault: 'nonsense' });
      for (let i = 0; i < 14; i++) {
        s.me.tick(i);
        expect(s.last()).toHaveProperty('problem');
      }
    });
    it('out of range and disconnect', () => {
      const s = begin('bench');
      s.order({ do: 'stream', on: true });
      s.order({ do: 'fault', fault: 'out of range' });
      s.me.tick(1);
      expect(s.last()).toMatchObject({ message: { values: { percent: 9999 } } });
      s.order({ do: 'fault', fault: 'disconnect' });
      expect(s.cuts()).toBe(1);
    });
  });
  it('takes no notice of lines that make no sense', () => {
    const s = begin('bench');
    for (const line of ['', '{', '{"do":"explode"}', 'x'.repeat(20_000), '{"do":"depression","to":"much"}'])
      s.me.take(line);
    expect(s.sent).toHaveLength(1);
    expect(s.world.depressionSet).toBe(REFERENCE_DEPRESSION);
  });
});
