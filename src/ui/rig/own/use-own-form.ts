'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { useMemo } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { z } from 'zod';
import type { DriverAdditions } from '../../../core/driver';
import type { Problem, Result } from '../../../core/result';

interface Typed<Own> {
  readonly own: Own;
}

/** Fields that show their own problem; every other problem is listed under the form. */
const fields = [
  'title',
  'payload',
  'path',
  'headers',
  'address',
  'args',
  'pattern',
  'pointer',
  'topic',
  'header',
  'expression',
  'sameAs',
] as const;
export type OwnProblems = Partial<Record<(typeof fields)[number], string>>;

/** The form of a command or reading that a show adds: sent as a whole, and checked by trying it on the driver. */
export function useOwnForm<Own extends object>(
  initial: Own,
  put: (own: Own) => Result<DriverAdditions, readonly Problem[]>,
  onSave: (next: DriverAdditions) => Promise<boolean>,
) {
  const resolver = useMemo(
    () =>
      zodResolver(
        z.custom<Typed<Own>>().superRefine(({ own }, context) => {
          const made = put(own);
          if (!made.ok) context.addIssue({ code: 'custom', path: ['own'], message: JSON.stringify(made.error) });
        }),
      ),
    [put],
  );
  // The library's types of nested paths do not reach through a union, so that the form is one value.
  const { control, setValue, handleSubmit, formState } = useForm<{ own: object }>({
    defaultValues: { own: initial },
    resolver: resolver as never,
  });
  const own = useWatch({ control, name: 'own' }) as Own;
  const { isSubmitted, isSubmitting } = formState;
  const made = useMemo(() => put(own), [put, own]);
  const problems = isSubmitted && !made.ok ? made.error : [];
  const isField = (path: string): path is keyof OwnProblems => (fields as readonly string[]).includes(path);
  return {
    own,
    set: (change: Partial<Own>) => setValue('own', { ...own, ...change }, { shouldValidate: isSubmitted }),
    wrong: Object.fromEntries(
      problems.filter(({ path }) => isField(path)).map(({ path, message }) => [path, message]),
    ) as OwnProblems,
    others: problems.filter(({ path }) => !isField(path)),
    isSubmitting,
    onSubmit: handleSubmit(async () => {
      const now = put(own);
      if (now.ok) await onSave(now.value);
    }),
  };
}
