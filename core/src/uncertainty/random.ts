/** A repeatable stream of random numbers from 0 to 1 (mulberry32, T. Ettinger, public domain). */
export function random(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** Normally distributed about 0 with deviation 1 (Box and Muller, Ann. Math. Stat. 29 (1958) 610). */
export function normal(uniform: () => number): number {
  return Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform());
}

/** A seed from a text, the same everywhere (FNV-1a, 32 bits; G. Fowler, L. C. Noll, K.-P. Vo). */
export function seedOf(text: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return hash >>> 0;
}
