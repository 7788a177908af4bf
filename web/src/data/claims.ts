import type { PullTally } from '@alluvium/core';
import type { AuditLine, BandAsk, BandPipe, Head, PipeEffect, ShopSpreads, SourceTable } from '@alluvium/records';
import type { BandView, Side, System } from '@alluvium/core';
import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { fileAt, get, request } from './client.js';
import { KEYS } from './keys.js';

/** How far the library is read: until it is, what is answered holds for what was read so far. */
export interface Standing {
  readonly done: number;
  readonly of: number;
  readonly version: number;
}
/** While the library is still being read, a page asks again. */
const AGAIN_MS = 1_500;
const untilRead = (data: Standing | undefined): number | false => (data && data.done < data.of ? AGAIN_MS : false);

const ask = <T extends Partial<Standing>>(key: () => readonly unknown[], run: () => Promise<T>, enabled = () => true) =>
  useQuery({
    queryKey: [...KEYS.claims, computed(key)],
    queryFn: run,
    enabled: computed(enabled),
    placeholderData: keepPreviousData,
    refetchInterval: (query) => untilRead(query.state.data as Standing | undefined),
    shallow: true,
  });

export interface ClaimStanding extends Standing {
  /** Our own bench. */
  readonly own: string | null;
  readonly pulls: PullTally;
  /** What a pipe is worth on an exhaust; null while too few ports were tested both ways. */
  readonly pipe: PipeEffect | null;
  /** What all tests say of set-ups and of benches. */
  readonly shop?: ShopSpreads;
}
export const useClaimStanding = () =>
  ask(
    () => ['standing'],
    () => get<ClaimStanding>('/api/claims/standing'),
  );

/** Where these coefficients stand among all measured heads. */
export const useBandViews = (asks: () => readonly BandAsk[]) =>
  ask(
    () => ['band', asks()],
    async () => {
      const asked = asks();
      const answer = await request<Standing & { views: BandView[] }>('POST', '/api/claims/band', { asks: asked });
      return { ...answer, asks: asked };
    },
  );

/** What heads of a class have at these lift ratios of their valves; nothing is asked while there is no lift. */
export const useFamilyViews = (of: () => Head['class'], asks: () => readonly FamilyAsk[]) =>
  ask(
    () => ['family', of(), asks()],
    async () => {
      const asked = asks();
      const answer = await request<Standing & { views: BandView[] }>('POST', '/api/claims/family', {
        class: of(),
        asks: asked,
      });
      return { ...answer, asks: asked };
    },
    () => asks().length > 0,
  );

/** A lift of one side, by the diameter of its valve. */
export type FamilyAsk = Pick<BandAsk, 'side' | 'pipe' | 'liftRatio'>;

export const useCloud = (side: () => Side, pipe: () => BandPipe) =>
  useQuery({
    queryKey: [...KEYS.claims, 'cloud', computed(side), computed(pipe)],
    queryFn: () => get<[liftRatio: number, coefficient: number][]>(`/api/claims/cloud?side=${side()}&pipe=${pipe()}`),
    shallow: true,
  });

export const useCatalogue = (source: () => string, side: () => Side) =>
  useQuery({
    queryKey: [...KEYS.claims, 'catalogue', computed(source), computed(side)],
    queryFn: () =>
      get<{ total: number; items: SourceTable[] }>(`/api/claims/catalogue?source=${source()}&side=${side()}`),
    enabled: computed(() => source() !== ''),
    shallow: true,
  });

export interface AuditAsk {
  readonly system: System;
  readonly source?: string | undefined;
  readonly doubtful: boolean;
  readonly page: number;
}
export interface AuditPage extends Standing {
  readonly total: number;
  readonly size: number;
  readonly sources: readonly { readonly name: string; readonly total: number; readonly doubtful: number }[];
  readonly lines: readonly AuditLine[];
}
const auditQuery = ({ system, source, doubtful, page }: AuditAsk): string =>
  new URLSearchParams({
    system,
    doubtful: doubtful ? 'yes' : 'no',
    page: String(page),
    ...(source ? { source } : {}),
  }).toString();
export const useAudit = (wanted: () => AuditAsk) =>
  ask(
    () => ['audit', wanted()],
    () => get<AuditPage>(`/api/claims/audit?${auditQuery(wanted())}`),
  );
export const auditCsv = (wanted: AuditAsk) => fileAt(`/api/claims/audit.csv?${auditQuery(wanted)}`);

/** How many claims about these heads are worth a second look, judged as the page of claims judges them. */
export const useDoubtful = (heads: () => readonly string[]) =>
  ask(
    () => ['doubtful', heads()],
    () => get<Standing & { count: number }>(`/api/claims/doubtful?heads=${heads().join(',')}`),
    () => heads().length > 0,
  );
