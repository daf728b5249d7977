'use client';

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Button } from '../kit';
import type { HealthResponse } from '../../core/live';

/** What is wrong with the record: that it was set aside, or has more rows than it keeps; those go only when somebody says so. */
export function RecordAlerts() {
  const queries = useQueryClient();
  const { data: alerts = [] } = useQuery({
    queryKey: ['record-alerts'],
    queryFn: async () => {
      const health = (await (await fetch('/api/health')).json()) as HealthResponse;
      return health.alerts.filter(({ code }) => code === 'record-full' || code === 'record-set-aside');
    },
    refetchInterval: 10_000,
  });
  const prune = async () => {
    await fetch('/api/record/prune', { method: 'POST' });
    await queries.invalidateQueries({ queryKey: ['record-alerts'] });
  };
  return alerts.map(({ code, text }) => (
    <p key={code} className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink" role="status">
      {text}{' '}
      {code === 'record-full' && (
        <Button kind="ghost" onClick={() => void prune()}>
          Delete the oldest rows
        </Button>
      )}
    </p>
  ));
}
