'use client';

import { useQuery } from '@tanstack/react-query';
import type { Network } from '../../core/diagnosis';

/** This computer on its networks; `undefined` while it is not known. */
export function useNetwork(): Network | undefined {
  return useQuery({
    queryKey: ['network'],
    staleTime: 10_000,
    queryFn: async (): Promise<Network> => {
      const response = await fetch('/api/network');
      if (!response.ok) throw new Error('The network settings could not be read.');
      return (await response.json()) as Network;
    },
  }).data;
}
