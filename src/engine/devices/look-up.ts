import { lookUpNow } from '../../core/lamp';
import type { Scalar } from '../../core/result';
import type { LookUp, ReadingRef } from '../../core/show';
import type { DriverDocument } from '../../core/driver';
import type { ReadingStore } from './readings';

/** Looks up the values that commands take from readings, as reported now. */
export const lookUpIn = (
  { documentOf }: { readonly documentOf: (device: string) => DriverDocument | undefined },
  readings: ReadingStore,
  values: Readonly<Record<string, Scalar>>,
): LookUp => lookUpNow(values, { fresh: ({ device, key }: ReadingRef) => readings.fresh(device, key), documentOf });
