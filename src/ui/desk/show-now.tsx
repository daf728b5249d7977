'use client';

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { createContext, useContext, useEffect, useMemo, type ReactNode } from 'react';
import {
  withNews,
  withPending,
  type DeskView,
  type DriversView,
  type Edit,
  type ShowNews,
  type ShowNow,
} from '../../core/show';
import { useHead, useStatus } from '../live';

interface ShowContextValue {
  readonly show: DeskView | undefined;
  readonly failed: boolean;
}

const ShowContext = createContext<ShowContextValue>({ show: undefined, failed: false });

interface Props {
  readonly window: string;
  /** Edits of this window that are on their way. */
  readonly pending: readonly Edit[];
  readonly children: ReactNode;
}

/** Keeps the show as edited last: asks for what has changed whenever anybody has edited it, and shows own edits at once. */
export function ShowProvider({ window, pending, children }: Props) {
  const queries = useQueryClient();
  const head = useHead()?.seq;
  const revision = useStatus()?.show.revision;
  const query = useQuery({
    queryKey: ['show', window],
    enabled: window !== '',
    staleTime: Infinity,
    structuralSharing: false,
    retry: 10,
    retryDelay: 1000,
    queryFn: () => fetchShow(window, queries.getQueryData<ShowNow>(['show', window])),
  });
  useEffect(() => {
    const known = queries.getQueryData<ShowNow>(['show', window]);
    if (head === undefined || !known || (known.seq === head && known.service.running === revision)) return;
    void queries.invalidateQueries({ queryKey: ['show'] });
  }, [queries, window, head, revision]);
  const key = query.data?.driversKey;
  const drivers = useQuery({
    queryKey: ['drivers', key],
    enabled: key !== undefined,
    placeholderData: (before: DriversView | undefined) => before,
    staleTime: Infinity,
    retry: 10,
    retryDelay: 1000,
    queryFn: () => read<DriversView>('/desk/drivers'),
  });
  const records = useMemo(() => (query.data ? withPending(query.data.records, pending) : []), [query.data, pending]);
  const show = useMemo(
    () => (query.data && drivers.data ? { ...query.data, ...drivers.data, records } : undefined),
    [query.data, drivers.data, records],
  );
  const failed = query.isError || drivers.isError;
  const value = useMemo(() => ({ show, failed }), [show, failed]);
  return <ShowContext value={value}>{children}</ShowContext>;
}

/** The show as edited last, with the drivers at hand. */
export const useShow = (): ShowContextValue => useContext(ShowContext);

async function fetchShow(window: string, before: ShowNow | undefined): Promise<ShowNow> {
  const since = before ? `&since=${before.seq}` : '';
  const news = withNews(before, await read<ShowNews>(`/desk/show?window=${window}${since}`));
  const whole = news ?? withNews(undefined, await read<ShowNews>(`/desk/show?window=${window}`));
  if (!whole) throw new Error('The show could not be read.');
  return whole;
}

async function read<T>(path: string): Promise<T> {
  const response = await fetch(path);
  if (!response.ok) throw new Error('The show could not be read.');
  return (await response.json()) as T;
}
