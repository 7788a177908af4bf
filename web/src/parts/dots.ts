import { ref } from 'vue';

// getScreenCTM()!: the drawing is on the page: it is pointed at.

/** A place in a picture, in its own pixels. */
export type Dot = [x: number, y: number];

/** What an arrow key moves by. */
export const ARROWS: Readonly<Record<string, Dot>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Where a pointer is in the picture's own pixels, however the drawing is fitted into its box. */
export function dotAt(svg: SVGSVGElement, event: PointerEvent): Dot {
  const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM()!.inverse());
  return [p.x, p.y];
}

/** The keyboard's cross over a picture; shown once an arrow was pressed. With Shift it goes pixel by pixel. */
export function useCross(size: () => { readonly width: number; readonly height: number }) {
  const cross = ref<Dot>();
  function step([dx, dy]: Dot, fine: boolean): void {
    const { width, height } = size();
    const by = fine ? 1 : Math.max(2, width / 100);
    const [x, y] = cross.value ?? [width / 2, height / 2];
    cross.value = [Math.max(0, Math.min(width, x + dx * by)), Math.max(0, Math.min(height, y + dy * by))];
  }
  return { cross, step };
}
