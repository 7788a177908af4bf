/** A report as PDF. The same report gives the same bytes: its dates are those of the report. */
import { createRequire } from 'node:module';
import type { Block, Letterhead, ReportDocument, ReportSection } from '@alluvium/records';
import { PROGRAM } from '@alluvium/records';
import type { Content, TDocumentDefinitions, TableCell } from 'pdfmake/interfaces.js';
import { FONTS, MAIN, runsOf } from './fonts.js';

interface PdfMaker {
  setFonts(fonts: object): void;
  setUrlAccessPolicy(allow: (url: string) => boolean): void;
  setLocalAccessPolicy(allow: (path: string) => boolean): void;
  createPdf(definition: TDocumentDefinitions): { getBuffer(): Promise<Uint8Array> };
}
const pdfmake = createRequire(import.meta.url)('pdfmake') as PdfMaker;
pdfmake.setFonts(FONTS);
// Nothing a record says is ever fetched or opened.
pdfmake.setUrlAccessPolicy(() => false);
const files = new Set<string>(Object.values(FONTS).flatMap((f) => Object.values(f)));
pdfmake.setLocalAccessPolicy((path) => files.has(path));

const SLATE = '#5C6B70';
const RULE = '#C9C4B6';
const CAUTION = '#8A4B08';
const MARGIN = 46;
/** Width of what is printed on, points. */
const WIDTHS = { A4: 595.28, Letter: 612 } as const;

/** Width of a picture and size of the text, points. */
interface Setting {
  readonly picture: number;
  readonly size: number;
}
/** From as it looks best to as small as it may be read: what is wanted on one sheet takes the first that fits. */
const SETTINGS: readonly [Setting, ...Setting[]] = [
  { picture: 480, size: 9.5 },
  { picture: 400, size: 9.5 },
  { picture: 340, size: 9 },
  { picture: 300, size: 8.5 },
];

const said = (text: string): Content => ({ text: runsOf(text) });

/** A picture whose words are set in the fonts that have their letters. */
function drawn(svg: string): string {
  const plain = (text: string) =>
    text
      .replace(/&lt;/g, '<')
      .replace(/&gt;/g, '>')
      .replace(/&quot;/g, '"')
      .replace(/&amp;/g, '&');
  const safe = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');
  return svg.replace(/(<text[^>]*>)([^<]*)<\/text>/g, (_, open: string, inside: string) => {
    const runs = runsOf(plain(inside));
    if (runs.every((r) => r.font === MAIN)) return `${open}${safe(runs.map((r) => r.text).join(''))}</text>`;
    return `${open}${runs.map((r) => `<tspan font-family="${r.font}">${safe(r.text)}</tspan>`).join('')}</text>`;
  });
}

function blockOf(block: Block, width: number, { picture, size }: Setting): Content {
  switch (block.kind) {
    case 'text':
      return { ...(said(block.text) as object), style: block.tone ?? 'plain' } as Content;
    case 'list':
      return { ul: block.items.map(said), margin: [0, 2, 0, 2] };
    case 'picture':
      return {
        stack: [
          { ...(said(block.title) as object), style: 'note' } as Content,
          { svg: drawn(block.svg), width: Math.min(width, picture), margin: [0, 2, 0, 2] },
        ],
        unbreakable: true,
      };
    case 'table': {
      const cell = (text: string, column: number, head: boolean): TableCell => ({
        text: runsOf(text),
        alignment: block.numeric.includes(column) ? 'right' : 'left',
        ...(head ? { color: SLATE } : {}),
      });
      const { head } = block;
      return {
        table: {
          headerRows: 1,
          dontBreakRows: true,
          keepWithHeaderRows: 1,
          widths: head.map((_, i) => (block.wide.includes(i) ? '*' : 'auto')),
          body: [
            head.map((h, i) => cell(h, i, true)),
            ...block.rows.map((row) => head.map((_, i) => cell(row[i] ?? '', i, false))),
          ],
        },
        layout: {
          hLineWidth: (i, node) => (i === 0 || i === node.table.body.length ? 0 : 0.5),
          vLineWidth: () => 0,
          hLineColor: () => RULE,
          paddingTop: () => 1.5,
          paddingBottom: () => 1.5,
          paddingLeft: (i) => (i === 0 ? 0 : 6),
          paddingRight: () => 0,
        },
        margin: [0, 2, 0, 4],
        fontSize: head.length > 6 ? size - 1.5 : size - 0.5,
      };
    }
  }
}

const sectionOf = (section: ReportSection, width: number, setting: Setting): Content[] => [
  {
    ...(said(section.title) as object),
    style: 'heading',
    headlineLevel: 1,
    ...(section.page ? { pageBreak: 'before' } : {}),
  } as Content,
  ...section.blocks.map((b) => blockOf(b, width, setting)),
];

function letterheadOf(letterhead: Letterhead | undefined): Content[] {
  if (!letterhead) return [];
  const address = letterhead.lines
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)
    .join(' · ');
  return [
    {
      columns: [
        ...(letterhead.logo
          ? [{ stack: [{ image: letterhead.logo, fit: [90, 44] as [number, number] }], width: 'auto' }]
          : []),
        {
          stack: [
            { ...(said(letterhead.name) as object), bold: true, fontSize: 13 } as Content,
            { ...(said(address) as object), color: SLATE, fontSize: 9 } as Content,
          ],
        },
      ],
      columnGap: 14,
      margin: [0, 0, 0, 6],
    },
  ];
}

/** A report on paper, bytes; one that is wanted on one sheet is set smaller until it fits, as far as it can be read. */
export async function pdfOf(report: ReportDocument, letterhead: Letterhead | undefined): Promise<Uint8Array> {
  let made = await set(report, letterhead, SETTINGS[0]);
  for (const setting of report.oneSheet ? SETTINGS.slice(1) : []) {
    if (made.pages === 1) break;
    made = await set(report, letterhead, setting);
  }
  return made.pdf;
}

async function set(
  report: ReportDocument,
  letterhead: Letterhead | undefined,
  setting: Setting,
): Promise<{ readonly pdf: Uint8Array; readonly pages: number }> {
  let count = 0;
  const paper = letterhead?.paper ?? 'A4';
  const width = WIDTHS[paper] - 2 * MARGIN;
  const made = new Date(`${report.date}T12:00:00Z`);
  const foot = letterhead?.foot.trim();
  const definition: TDocumentDefinitions = {
    pageSize: paper === 'A4' ? 'A4' : 'LETTER',
    pageMargins: [MARGIN, 40, MARGIN, foot ? 58 : 44],
    info: {
      title: report.title,
      author: letterhead?.name ?? 'Alluvium',
      creator: `Alluvium ${PROGRAM}`,
      producer: 'pdfmake',
      creationDate: made,
      modDate: made,
    },
    defaultStyle: { font: MAIN, fontSize: setting.size, color: '#1D2A2E', lineHeight: 1.08 },
    styles: {
      heading: { bold: true, fontSize: 11.5, margin: [0, 8, 0, 2] },
      lead: { bold: true, fontSize: 10.5, margin: [0, 1, 0, 1] },
      note: { color: SLATE, fontSize: 8.5, margin: [0, 0, 0, 2] },
      caution: { color: CAUTION, margin: [0, 0, 0, 2] },
      plain: { margin: [0, 0, 0, 2] },
    },
    content: [
      ...letterheadOf(letterhead),
      { ...(said(report.title) as object), fontSize: 17, bold: true } as Content,
      { ...(said(`${report.under} · ${report.day}`) as object), style: 'note' } as Content,
      {
        canvas: [{ type: 'line', x1: 0, y1: 0, x2: width, y2: 0, lineWidth: 0.8, lineColor: SLATE }],
        margin: [0, 0, 0, 2],
      },
      ...report.sections.flatMap((s) => sectionOf(s, width, setting)),
    ],
    footer: (page, pages) => {
      count = pages;
      return {
        stack: [
          ...(foot ? [{ ...(said(foot) as object), fontSize: 8, color: SLATE } as Content] : []),
          {
            columns: [
              { ...(said(report.title) as object), fontSize: 8, color: SLATE } as Content,
              { text: `page ${page} of ${pages}`, alignment: 'right', fontSize: 8, color: SLATE },
            ],
          },
        ],
        margin: [MARGIN, 8, MARGIN, 0],
      };
    },
    // A heading never stands alone at the foot of a page.
    pageBreakBefore: (node, nodes) => node.headlineLevel === 1 && nodes.getFollowingNodesOnPage().length === 0,
  };
  const pdf = await pdfmake.createPdf(definition).getBuffer();
  return { pdf, pages: count };
}
