/** Made-up libraries of any size, for measuring only. */
export function bigBundle(heads: number, prefix = 'big') {
  const LIFTS = Array.from({ length: 14 }, (_, i) => `${((i + 1) * 0.05).toFixed(3).replace(/^0/, '')} in`);
  const flow = (i: number, k: number, scale: number) =>
    `${(scale * (1 - Math.exp(-(k + 1) / 4)) * (1 + (i % 17) / 100)).toFixed(1)} cfm`;
  const bundle = {
    format: 'alluvium-bundle',
    version: 1,
    heads: [] as object[],
    stages: [] as object[],
    measures: [] as object[],
    sheets: [] as object[],
  };
  for (let i = 0; i < heads; i++) {
    const id = `${prefix}-${i}`;
    bundle.heads.push({
      id,
      name: `Head ${i}`,
      maker: ['Corrow', 'Pellam', 'Ottermoor'][i % 3],
      catalogueNumber: `N-${i * 7}`,
      kind: 'aftermarket',
      price: String(200 + (i % 900)),
    });
    bundle.stages.push({ id: `${id}-s`, headId: id, name: 'as received' });
    for (const [side, size] of [
      ['intake', '1.94 in'],
      ['exhaust', '1.6 in'],
    ])
      bundle.measures.push({ id: `${id}-${side}`, stageId: `${id}-s`, item: 'valve diameter', side, value: size });
    for (const n of [1, 2]) {
      bundle.sheets.push({
        id: `${id}-${n}`,
        stageId: `${id}-s`,
        title: `Port ${n}`,
        date: '2026-01-01',
        setup: { depression: '28 inH2O', bore: '98.0 mm' },
        rows: LIFTS.map((lift, k) => ({
          lift,
          intake: { pulls: [flow(i, k, 230)] },
          exhaust: { pulls: [flow(i, k, 170)] },
        })),
      });
    }
  }
  return bundle;
}
