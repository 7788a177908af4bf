/** What a machine can see of a page's layout; run in the page, so that each function stands alone. */

/** What is cut off, scrolls sideways, or is too small to read. Wide tables may scroll within a frame of their own. */
export function measured(): string[] {
  const found: string[] = [];
  const root = document.documentElement;
  const main = document.querySelector('main')!;
  const name = (e: Element) =>
    `${e.tagName.toLowerCase()}.${e.getAttribute('class') ?? ''} “${e.textContent.trim().slice(0, 40)}”`;
  if (root.scrollWidth > innerWidth + 1)
    found.push(`the window scrolls sideways: ${root.scrollWidth} in ${innerWidth}`);
  if (main.scrollWidth > main.clientWidth + 1) {
    const right = main.getBoundingClientRect().left + main.clientWidth + 1;
    const framed = (e: Element): boolean => {
      for (let up = e.parentElement; up && up !== main; up = up.parentElement)
        if (['auto', 'scroll', 'hidden', 'clip'].includes(getComputedStyle(up).overflowX)) return true;
      return false;
    };
    const wide = [...main.querySelectorAll('*')].filter((e) => e.getBoundingClientRect().right > right && !framed(e));
    if (wide.length > 0)
      found.push(`the page scrolls sideways (${main.scrollWidth} in ${main.clientWidth}): ${name(wide.at(-1)!)}`);
  }
  const small = new Set<string>();
  const texts = document.createTreeWalker(main, NodeFilter.SHOW_TEXT);
  for (let node = texts.nextNode(); node; node = texts.nextNode()) {
    const holder = node.parentElement!;
    if (node.textContent!.trim() === '' || !holder.checkVisibility({ opacityProperty: true, visibilityProperty: true }))
      continue;
    const box = holder.getBoundingClientRect();
    if (box.width <= 1 || box.height <= 1) continue;
    const at = holder instanceof SVGGraphicsElement ? holder.getScreenCTM() : null;
    const scale = at ? Math.sqrt(Math.abs(at.a * at.d - at.b * at.c)) : 1;
    const size = parseFloat(getComputedStyle(holder).fontSize) * scale;
    // Raised and lowered letters and formulas are set smaller by custom; a sheet of paper is shown as it will be printed.
    if (size < 11.9 && !holder.closest('sub, sup, .katex, .paper'))
      small.add(`text of ${size.toFixed(1)} px: ${name(holder)}`);
  }
  return [...found, ...[...small].slice(0, 4)];
}

/** What a sheet of paper would lose: what stands beyond its edge, or in a frame that scrolls. */
export function onPaper(): string[] {
  const found: string[] = [];
  const name = (e: Element) =>
    `${e.tagName.toLowerCase()}.${e.getAttribute('class') ?? ''} “${e.textContent.trim().slice(0, 40)}”`;
  const main = document.querySelector('main')!;
  for (const e of main.querySelectorAll('*')) {
    if (!e.checkVisibility() || e.closest('svg')?.parentElement?.closest('svg')) continue;
    const { overflowX, overflowY } = getComputedStyle(e);
    const scrolls = (over: string) => over === 'auto' || over === 'scroll' || over === 'hidden';
    const box = e.getBoundingClientRect();
    if (box.width <= 1 || box.height <= 1) continue;
    if (
      (scrolls(overflowX) && e.scrollWidth > e.clientWidth + 1) ||
      (scrolls(overflowY) && e.scrollHeight > e.clientHeight + 2)
    )
      found.push(`cut: ${name(e)}`);
    else if (box.right > innerWidth + 1 && !e.closest('svg'))
      found.push(`beyond the edge by ${Math.round(box.right - innerWidth)}: ${name(e)}`);
  }
  if (!document.querySelector('.paper-head, .paper')?.checkVisibility())
    found.push('no heading with the engine, the head, the date and the shop');
  return found.slice(0, 6);
}
