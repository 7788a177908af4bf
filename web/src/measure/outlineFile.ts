import { outlinesOfDxf, readOutlineCsv, type OutlineReading } from '@alluvium/records';
import { readDxf } from './dxf.js';
import { outlinesOfSvg } from './svgOutlines.js';

/** A drawing of a few dozen sections takes far less, bytes. */
const LARGEST = 10_000_000;

/** Outlines of a file of any of the open formats; what cannot be read is a sentence. Never throws. */
export async function readOutlineFile(file: File, dxf: typeof readDxf = readDxf): Promise<OutlineReading> {
  if (file.size > LARGEST)
    return { outlines: [], problems: [`${file.name} is over 10 MB. Save only the sections of the port.`] };
  const text = await file.text();
  if (/\.svg$/i.test(file.name)) return outlinesOfSvg(text);
  if (!/\.dxf$/i.test(file.name)) return readOutlineCsv(text);
  try {
    const { entities, insUnits } = await dxf(text);
    return outlinesOfDxf(entities, insUnits);
  } catch {
    return { outlines: [], problems: [`${file.name} is no DXF this program can read. Save it as ASCII DXF.`] };
  }
}
