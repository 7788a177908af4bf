/** What the simulation says, in words. */
import type { Say } from '../quantity/format.js';
import { degrees } from '../quantity/units.js';
import type { CamFound } from '../simulation/camSearch.js';
import { listed } from './listed.js';
import type { CycleRead, Stretch } from '../simulation/cycle.js';
import type { MoreCam } from '../simulation/moreCam.js';
import { MORE_DURATION, MORE_LIFT } from '../simulation/whatIf.js';
import { CAM_FINENESS, fairCam } from '../simulation/camSearch.js';
import type { HeldBack, Part } from '../simulation/holdback.js';
import type { Difference } from '../simulation/difference.js';
import { camsApart, type CamAt } from '../simulation/setup.js';
import type { SizeWanted } from '../simulation/portSize.js';
import { oddsWords } from './verdict.js';

/** A difference smaller than this is not worth a word, Nm. */
const WORTH_SAYING = 1;
/** Odds from which a difference is told. */
const TOLD = 0.9;

/** Speeds over which the band of a difference leaves nothing out: where one head is above the other. */
export function apartSpeeds(
  d: Pick<Difference, 'band'>,
  speeds: readonly number[],
): { readonly from: number; readonly to: number; readonly better: 'a' | 'b' }[] {
  const found: { from: number; to: number; better: 'a' | 'b' }[] = [];
  d.band.forEach((b, k) => {
    const better = b.low > 0 ? 'b' : b.high < 0 ? 'a' : undefined;
    if (!better) return;
    const last = found.at(-1);
    if (last?.better === better && last.to === speeds[k - 1]) last.to = speeds[k]!;
    else found.push({ from: speeds[k]!, to: speeds[k]!, better });
  });
  return found;
}

/** B against A: the difference at the target, over the working speeds, where they are told apart, and what would turn it. */
export function differenceWords(
  a: string,
  b: string,
  d: Difference,
  speeds: readonly number[],
  target: number,
  say: Say,
): string {
  const at = speeds.reduce((best, s, k) => (Math.abs(s - target) < Math.abs(speeds[best]! - target) ? k : best), 0);
  const torque = say.of(d.torque[at]!, 'torque', { digits: 0, signed: true });
  const mean = say.of(d.mean, 'torque', { digits: 0, signed: true });
  // Where the other one is ahead, the furthest: what a gain at the target costs elsewhere.
  const against = speeds.reduce((worst, _, k) => {
    const opposite = d.torque[k]! * d.torque[at]! < 0;
    return opposite && (worst < 0 || Math.abs(d.torque[k]!) > Math.abs(d.torque[worst]!)) ? k : worst;
  }, -1);
  const apart = apartSpeeds(d, speeds);
  const turn = (n: number) => say.of(n, 'rotation');
  const elsewhere =
    against >= 0 && Math.abs(d.torque[against]!) > WORTH_SAYING
      ? `, ${say.of(d.torque[against]!, 'torque', { digits: 0, signed: true })} at ${turn(speeds[against]!)}`
      : '';
  const where = apart.length
    ? `told apart ${apart.map((s) => (s.from === s.to ? `at ${turn(s.from)}` : `from ${turn(s.from)} to ${turn(s.to)}`)).join(' and ')}`
    : 'not told apart at any speed';
  const better =
    d.odds >= TOLD
      ? `${b} is ahead over the working speeds, ${oddsWords(d.odds)}.`
      : d.odds <= 1 - TOLD
        ? `${a} is ahead over the working speeds, ${oddsWords(1 - d.odds)}.`
        : `Over the working speeds ${a} and ${b} can’t be told apart (${oddsWords(d.odds)} for ${b}).`;
  const turning = d.turns ? ` What would turn it soonest: ${d.turns.label}.` : '';
  return `${b} against ${a}: ${torque} at ${turn(speeds[at]!)}${elsewhere}, ${mean} over the working speeds; ${where}. ${better}${turning}`;
}

export const PART_WORDS: Readonly<Record<Part, string>> = {
  valve: 'the intake valve',
  port: 'the port’s areas',
  runner: 'runner entry and its warm walls',
  plenum: 'plenum and throttle',
  exhaust: 'exhaust valve and back pressure',
};

/** What holds a head back, greatest first. */
export function holdbackWords(h: HeldBack, say: Say): string {
  const known = h.parts.filter((p) => Number.isFinite(p.gain)).sort((a, b) => b.gain - a.gain);
  const [first, second] = known;
  if (!first || first.gain <= 0.005 * h.torque)
    return 'Nothing of the breathing alone holds it back much at this speed.';
  const torque = (n: number) => say.of(n, 'torque', { digits: 0, signed: true });
  const then = second && second.gain > 0 ? `; then by ${PART_WORDS[second.part]}, ${torque(second.gain)}` : '';
  return `Held back most at ${say.of(h.speed, 'rotation')} by ${PART_WORDS[first.part]}: ideal, ${torque(first.gain)}${then}. All of it ideal together: ${torque(h.all)}.`;
}

/** The cam a head wants, no finer than the optimum is. */
export function camWords(
  name: string,
  c: CamFound,
  now: CamAt,
  /** What was sought: `over the working speeds`. */
  where: string,
  say: Say,
): string {
  const angle = (x: number) => say.of(x, 'angle', { digits: 0 });
  const gain = c.torque - c.now;
  const off = camsApart(c.at, now);
  const wants = `${name} wants a lobe separation of ${angle(c.at.lobeSeparation)} on a centreline of ${angle(c.at.intakeCentreline)}, both ±${angle(CAM_FINENESS)}`;
  const kept = (c.keptBy ?? []).map((k) => (k === 'room' ? 'valve-to-piston room' : 'the residuals low down'));
  const edge = `${kept.length > 0 ? ` A better one is kept out by ${listed(kept)}.` : ''}${c.edge ? ' The best lies at the edge of what was searched.' : ''}`;
  return off < CAM_FINENESS + degrees(0.5) || gain < 0.004 * c.now
    ? `${wants}: the cam in the build is as good (${say.of(gain, 'torque', { digits: 0, signed: true })}).${edge}`
    : `${wants}: ${say.of(gain, 'torque', { digits: 0, signed: true })} ${where} against the cam in the build.${edge}`;
}

/** Which measurement narrows a difference most: the act, and the standard uncertainty that would be left of it, Nm. */
export function measureNext(
  d: Pick<Difference, 'of' | 'u'>,
  /** The head a leaf belongs to, where it is one's own. */
  headOf: (leaf: string) => string | undefined = () => undefined,
): { readonly act: string; readonly left: number }[] {
  const whole = Math.hypot(...d.of.map((o) => o.change));
  return d.of
    .flatMap((o) => {
      const left = Math.sqrt(Math.max(0, whole ** 2 - o.change ** 2)) * (whole > 0 ? d.u / whole : 1);
      const head = headOf(o.id);
      return o.act ? [{ act: head ? `${o.act}, ${head}` : o.act, left }] : [];
    })
    .filter((a) => a.left < 0.98 * d.u)
    .slice(0, 3);
}

/** An angle of the cycle as it is spoken: `14° after TDC`, about the nearer dead centre. */
function angleWords(angle: number, say: Say): string {
  const dead = Math.round(angle / Math.PI);
  const off = angle - dead * Math.PI;
  const name = dead % 2 === 0 ? 'TDC' : 'BDC';
  const size = say.of(Math.abs(off), 'angle', { digits: 0 });
  return Math.abs(off) < degrees(0.5) ? name : `${size} ${off < 0 ? 'before' : 'after'} ${name}`;
}
/** Where gas runs back over a cycle, and where the choke lets no more through. */
export function cycleWords(name: string, c: CycleRead, say: Say): string[] {
  const over = (list: readonly Stretch[]) =>
    listed(
      list.map(({ from, to }) => {
        const [a, b] = [angleWords(from, say), angleWords(to, say)];
        return a === b ? `at ${a}` : `from ${a} to ${b}`;
      }),
    );
  const share = (v: number) => say.of(v, 'percent', { digits: 1 });
  return [
    c.intakeBack.length > 0
      ? `${name}: gas runs back into the intake ${over(c.intakeBack)}, ${share(c.intakeShare)} of what came in.`
      : `${name}: nothing runs back into the intake while its valve is open.`,
    ...(c.exhaustBack.length > 0
      ? [`Exhaust comes back into the cylinder ${over(c.exhaustBack)}, ${share(c.exhaustShare)} of what went out.`]
      : []),
    c.choked.length > 0
      ? `The choke lets hardly more through ${over(c.choked)}: Mach ${say.number(c.mostMach, 2)} at most.`
      : `The choke is never full: Mach ${say.number(c.mostMach, 2)} at most.`,
  ];
}

/** What a little more of the cam buys: `.020 in more lift: +3 lb ft over the working speeds, +5 hp at the target.` */
export function moreCamWords(m: MoreCam, against: readonly string[], say: Say): string {
  const more =
    m.what === 'lift'
      ? `${say.of(MORE_LIFT, 'lift')} more lift`
      : `${say.of(MORE_DURATION, 'angle', { digits: 0 })} more duration on both lobes`;
  const torque = say.of(m.torque, 'torque', { digits: 0, signed: true });
  const power = say.of(m.power, 'power', { digits: 0, signed: true });
  const beyond = m.beyond ? ' The sheet ends below that lift: its last flow is held, so less is surer than more.' : '';
  const set = against.length > 0 ? ` Against it: ${against.join('; ')}.` : '';
  return `${more}: ${torque} over the working speeds, ${power} at the target.${beyond}${set}`;
}

/** A lineup's cams: whether one cam is fair to two heads. */
export function fairSwapWords(
  a: { readonly letter: string; readonly cam: CamFound },
  b: { readonly letter: string; readonly cam: CamFound },
  now: CamAt,
  say: Say,
): string {
  const between = camsApart(a.cam.at, b.cam.at);
  const off = (x: CamFound) => say.of(camsApart(x.at, now), 'angle', { digits: 0 });
  const gain = (x: CamFound) => say.of(x.torque - x.now, 'torque', { digits: 0, signed: true });
  if (between <= CAM_FINENESS * Math.SQRT2)
    return `${a.letter} and ${b.letter} want the same cam, as far as can be told: a back-to-back test on one cam is fair.`;
  return `The cam in the build is ${off(a.cam)} from ${a.letter}’s own and ${off(b.cam)} from ${b.letter}’s: on its own cam ${a.letter} gains ${gain(a.cam)}, ${b.letter} ${gain(b.cam)}. A back-to-back test on that cam tells heads and cam together. ${fairCamWords(a, b, say)}`;
}

/** Which one cam would tell two heads apart, or that none would. */
function fairCamWords(
  a: { readonly letter: string; readonly cam: CamFound },
  b: { readonly letter: string; readonly cam: CamFound },
  say: Say,
): string {
  const { at, losses, difference, tells } = fairCam(a.cam, b.cam);
  const [lossA, lossB] = losses.map((l) => say.of(l, 'torque', { digits: 0 }));
  const angle = (v: number) => say.of(v, 'angle', { digits: 0 });
  const cam = `lobe separation ${angle(at.lobeSeparation)} on a centreline of ${angle(at.intakeCentreline)}, both ±${angle(CAM_FINENESS)}`;
  const apart = say.of(Math.abs(difference), 'torque', { digits: 0 });
  return tells
    ? `Fairest to both is ${cam}: there ${a.letter} gives up ${lossA} of its own best and ${b.letter} ${lossB}, and ${apart} lie between the two on their own cams, so that cam would tell them apart.`
    : `No one cam would tell them apart: even on the fairest (${cam}) ${a.letter} gives up ${lossA} and ${b.letter} ${lossB}, against ${apart} between the two on their own cams. Pull each on its own.`;
}

/** Port size about the one measured, at one speed. */
export function sizeWords(letter: string, s: SizeWanted, say: Say): string {
  const share = (f: number) => say.of(f - 1, 'percent', { digits: 0, signed: true });
  const here = s.from <= 1 && s.to >= 1;
  const tried = s.points.map((p) => p.factor);
  const edge = s.from === Math.min(...tried) || s.to === Math.max(...tried);
  const flat =
    s.from === s.to
      ? `best at ${share(s.from)} of area`
      : `from ${share(s.from)} to ${share(s.to)} of area within half a per cent of the best`;
  const word = here
    ? 'the port is on the flat top'
    : s.from > 1
      ? 'a larger port would do more'
      : 'a smaller port would do more';
  return `${letter} at ${say.of(s.speed, 'rotation')}: ${word} (${flat}${edge ? ', the edge of what was tried' : ''}).`;
}
