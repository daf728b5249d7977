'use client';

import { useState } from 'react';
import type { Problem, Result } from '../../core/result';

interface OwnFile<T> {
  readonly open: boolean;
  readonly setOpen: (open: boolean) => void;
  /** The file as it was read; `undefined` until one was, or when it cannot be read. */
  readonly read: { readonly name: string; readonly file: T } | undefined;
  readonly problems: readonly Problem[];
  readonly take: (file: File | undefined) => Promise<void>;
}

/** A window that reads a file which this program has saved. Opening and closing it begins anew. */
export function useOwnFile<T>(reader: (text: string) => Result<T, readonly Problem[]>): OwnFile<T> {
  const [open, setOpen] = useState(false);
  const [read, setRead] = useState<OwnFile<T>['read']>();
  const [problems, setProblems] = useState<readonly Problem[]>([]);
  return {
    open,
    read,
    problems,
    setOpen: (to) => {
      setOpen(to);
      setRead(undefined);
      setProblems([]);
    },
    take: async (file) => {
      if (!file) return;
      const result = reader(await file.text());
      setProblems(result.ok ? [] : result.error);
      setRead(result.ok ? { name: file.name, file: result.value } : undefined);
    },
  };
}
