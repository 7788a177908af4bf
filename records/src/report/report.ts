/** The report of a build: one page for the customer, pages for the workshop, workings on request. */
import type { Ranked, Say } from '@alluvium/core';
import type { Build } from '../nouns/build.js';
import type { Decision } from '../nouns/decide.js';
import { firstOf } from '../decide/turns.js';
import type { WayRead } from '../decide/ways.js';
import type { ReportDocument } from './blocks.js';
import { customerSections } from './customer.js';
import { appendixSections, workshopSections } from './workshop.js';

export interface ReportOptions {
  /** For whom: the customer's page alone, or with the workshop's. */
  readonly pages: 'customer' | 'workshop';
  /** Workings of the figures that decide. */
  readonly workings: boolean;
  /** Curves by their shape and differences in per cent: no flow is told. */
  readonly hidden: boolean;
}

export interface ReportFacts {
  readonly build: Build;
  readonly ways: readonly WayRead[];
  readonly ranked: Ranked;
  /** The newest decision of the build, where there is one. */
  readonly decision?: Decision | undefined;
  readonly words: readonly string[];
  readonly say: Say;
  /** The day it is made, 2026-05-31. */
  readonly date: string;
}

/** The way a report speaks for: the one decided on, else the one that comes first. */
export function reportedWay({ decision, ways, ranked }: ReportFacts): WayRead | undefined {
  const chosen = decision?.content.ways.find((w) => w.name === decision.content.chosen);
  return (
    ways.find((w) => (chosen?.id ? w.way.id === chosen.id : w.way.name === decision?.content.chosen)) ??
    firstOf(ways, ranked.wins) ??
    ways[0]
  );
}

export function reportOf(facts: ReportFacts, options: ReportOptions): ReportDocument {
  const way = reportedWay(facts);
  return {
    title: `Cylinder head for ${facts.build.name}`,
    under: facts.decision
      ? `Decided on ${facts.say.day(facts.decision.made)}${facts.decision.by ? ` by ${facts.decision.by}` : ''}`
      : 'Not decided yet',
    date: facts.date,
    day: facts.say.day(facts.date),
    oneSheet: options.pages === 'customer' && !options.workings,
    sections: [
      ...customerSections(facts, way, options),
      ...(options.pages === 'workshop' ? workshopSections(facts, way, options) : []),
      ...(options.workings && way ? appendixSections(facts, way, options) : []),
    ],
  };
}
