'use client';

import { useInfiniteQuery } from '@tanstack/react-query';
import { filterQuery, fitsFilter, type AsRunFilter, type AsRunRow } from '../../core/live';
import { useAsRun } from '../live';

interface Part {
  readonly rows: readonly AsRunRow[];
  readonly before?: number;
  readonly looked: number;
}

/** The newest rows that fit, newest first, as they come. */
export function useNewestRows(filter: AsRunFilter): { readonly rows: readonly AsRunRow[]; readonly of: number } {
  const all = useAsRun()?.rows ?? [];
  return { rows: all.filter((row) => fitsFilter(row, filter)).reverse(), of: all.length };
}

/** The whole record, looked through backwards piece by piece. */
export function useRecord(filter: AsRunFilter, wanted: boolean) {
  const query = useInfiniteQuery({
    queryKey: ['as-run', filter],
    enabled: wanted,
    staleTime: Infinity,
    gcTime: 0,
    initialPageParam: undefined as number | undefined,
    queryFn: async ({ pageParam, signal }): Promise<Part> => {
      const more = pageParam === undefined ? '' : `&before=${pageParam}`;
      const answer = await fetch(`/desk/as-run?${filterQuery(filter)}${more}`, { signal });
      if (!answer.ok) throw new Error('The record could not be read. The desk may be starting; try again.');
      return (await answer.json()) as Part;
    },
    getNextPageParam: (last) => last.before,
  });
  const parts = query.data?.pages ?? [];
  return {
    rows: parts.flatMap((part) => part.rows),
    looked: parts.reduce((sum, part) => sum + part.looked, 0),
    hasMore: query.hasNextPage,
    busy: query.isFetching,
    failed: query.error?.message,
    more: query.fetchNextPage,
  };
}
