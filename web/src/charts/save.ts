// to[]!: a copy has the elements of its original.
// getContext()!: a canvas has a drawing in two dimensions.

/** Saves a drawn chart as it stands. Styles that come from the page are written into the copy, so that it stands alone. */

const PROPERTIES = [
  'fill',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'font-family',
  'font-size',
  'font-style',
  'font-weight',
  'opacity',
  'text-anchor',
  'fill-opacity',
];

function standalone(svg: SVGSVGElement): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const from = [svg, ...svg.querySelectorAll<SVGElement>('*')];
  const to = [copy, ...copy.querySelectorAll<SVGElement>('*')];
  from.forEach((element, i) => {
    const style = getComputedStyle(element);
    for (const name of PROPERTIES) to[i]!.style.setProperty(name, style.getPropertyValue(name));
  });
  const { width, height } = svg.getBoundingClientRect();
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('width', String(width));
  copy.setAttribute('height', String(height));
  copy.style.background = getComputedStyle(document.documentElement).getPropertyValue('--paper');
  return new XMLSerializer().serializeToString(copy);
}

export function download(name: string, content: Blob | string, type = 'text/plain'): void {
  const url = URL.createObjectURL(typeof content === 'string' ? new Blob([content], { type }) : content);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

export function saveSvg(svg: SVGSVGElement, name: string): void {
  download(`${name}.svg`, standalone(svg), 'image/svg+xml');
}

/** Drawn at twice the size on screen. @throws Error when the browser cannot draw it. */
async function pngOf(svg: SVGSVGElement): Promise<Blob> {
  const { width, height } = svg.getBoundingClientRect();
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(standalone(svg))}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = width * 2;
  canvas.height = height * 2;
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
  if (!blob) throw new Error('The browser could not draw the picture.');
  return blob;
}

/** @throws Error when the browser cannot draw it. */
export async function savePng(svg: SVGSVGElement, name: string): Promise<void> {
  download(`${name}.png`, await pngOf(svg));
}

/** Puts the picture on the clipboard. @throws Error when the browser will not. */
export const copyPicture = (svg: SVGSVGElement): Promise<void> =>
  navigator.clipboard.write([new ClipboardItem({ 'image/png': pngOf(svg) })]);
