import { refusedBy, type Working } from '@alluvium/core';

/** A figure, or the sentence why these figures make none: it stands where the figure would. */
export function tried(make: () => Working | undefined): { readonly working?: Working; readonly problem?: string } {
  try {
    const working = make();
    return working ? { working } : {};
  } catch (error) {
    return { problem: refusedBy(error).message };
  }
}
