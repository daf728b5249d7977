import { useDeferredValue, useMemo } from 'react';
import { compileDriver, sampleProblems, type CompiledDriver } from '../../../core/driver';
import type { WrittenDocument } from '../../../core/learn';
import type { Problem } from '../../../core/result';

/** The text of the editor as the bench sees it. */
export interface BenchDocument {
  /** As it is written; `undefined` while it is no JSON object. */
  readonly written: WrittenDocument | undefined;
  /** `undefined` while it has a mistake. */
  readonly driver: CompiledDriver | undefined;
  /** What the samples differ in, by their place in the document. */
  readonly samples: readonly { readonly sample: unknown; readonly problems: readonly Problem[] }[];
  readonly firstProblem: Problem | undefined;
}

/** The document in the editor, compiled and with its samples run. It follows what is typed with a delay, so that typing stays quick. */
export function useBenchDocument(text: string): BenchDocument {
  const settled = useDeferredValue(text);
  return useMemo(() => read(settled), [settled]);
}

function read(text: string): BenchDocument {
  const written = objectIn(text);
  if (!written) return { written, driver: undefined, samples: [], firstProblem: undefined };
  const list = Array.isArray(written.samples) ? (written.samples as unknown[]) : [];
  const compiled = compileDriver(written);
  if (!compiled.ok) {
    const [firstProblem] = compiled.error;
    return { written, driver: undefined, samples: list.map((sample) => ({ sample, problems: [] })), firstProblem };
  }
  const problems = sampleProblems(compiled.value.whole);
  const samples = list.map((sample, n) => ({
    sample,
    problems: problems.filter(({ path }) => path === `samples.${n}` || path.startsWith(`samples.${n}.`)),
  }));
  return { written, driver: compiled.value, samples, firstProblem: undefined };
}

function objectIn(text: string): WrittenDocument | undefined {
  try {
    const parsed: unknown = JSON.parse(text);
    return typeof parsed === 'object' && parsed !== null && !Array.isArray(parsed)
      ? (parsed as WrittenDocument)
      : undefined;
  } catch {
    // Half typed: the editor marks the place.
    return undefined;
  }
}
