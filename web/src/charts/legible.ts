/**
 * `v-legible` on a drawing that is scaled to its place: tells its styles how many of its own units one pixel of the screen
 * is (`--per-px`), so that its text can stay large enough to be read: `font-size: max(11px, calc(12px * var(--per-px, 0)))`.
 */
import type { ObjectDirective } from 'vue';

const watching = new WeakMap<SVGSVGElement, ResizeObserver>();

function measure(svg: SVGSVGElement): void {
  const at = svg.getScreenCTM?.();
  if (!at) return;
  const scale = Math.sqrt(Math.abs(at.a * at.d - at.b * at.c));
  if (scale > 0) svg.style.setProperty('--per-px', (1 / scale).toFixed(3));
}

export const vLegible: ObjectDirective<SVGSVGElement> = {
  mounted(svg) {
    const observer = new ResizeObserver(() => measure(svg));
    observer.observe(svg);
    watching.set(svg, observer);
  },
  updated: measure,
  unmounted: (svg) => watching.get(svg)?.disconnect(),
};
