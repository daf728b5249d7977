'use client';

import { useQuery } from '@tanstack/react-query';
import type { Explanation } from '../../core/explain';

/** A lamp may still follow this long after the press. */
const lampWithinMs = 6000;
const againMs = 500;

/** The account of a press as it grows: `undefined` while it is fetched, `null` where the engine no longer has it. */
export function useExplanation(press: string): {
  readonly explanation: Explanation | null | undefined;
  readonly failed: boolean;
} {
  const query = useQuery({
    queryKey: ['explain', press],
    gcTime: 0,
    retry: 1,
    queryFn: async ({ signal }): Promise<Explanation | null> => {
      const answer = await fetch(`/api/presses/${encodeURIComponent(press)}`, { signal });
      if (answer.status === 404) return null;
      if (!answer.ok) throw new Error('The engine did not answer.');
      return (await answer.json()) as Explanation;
    },
    refetchInterval: ({ state: { data } }) => {
      if (!data) return false;
      const isOver = data.moments.some(({ is }) => is === 'ended');
      return isOver && Date.now() - data.at > lampWithinMs ? false : againMs;
    },
  });
  return { explanation: query.data, failed: query.isError };
}
