import { useMemo, useState } from 'react';
import type { CompiledDriver } from '../../../core/driver';
import { cutFrames, learnFraming, type Piece } from '../../../core/learn';
import { toHex } from '../../../core/wire';

/** A frame on the bench: what a device said, or what it was told. */
export interface BenchFrame {
  readonly n: number;
  readonly dir: 'in' | 'out';
  readonly bytes: Uint8Array;
  readonly hex: string;
}

/** What was brought to the bench, and where it is from. */
export interface Material {
  readonly pieces: readonly Piece[];
  readonly transport: 'tcp' | 'udp' | 'serial';
  /** The port of the device; 0 where it is not known. */
  readonly port: number;
  readonly from: string;
}

interface Marks {
  /** The framing by which the frames were cut that are marked. */
  readonly cutBy: string | undefined;
  readonly marked: ReadonlySet<number>;
}

const none: ReadonlySet<number> = new Set();

/** The frames of what was brought, cut by the framing of the document, and which of them are marked. */
export function useFrames(driver: CompiledDriver | undefined) {
  const [material, setMaterial] = useState<Material>();
  const framing = driver?.document.framing;
  // Cut in another way, frames have other numbers.
  const cutBy = JSON.stringify(framing);
  const [marks, setMarks] = useState<Marks>({ cutBy, marked: none });
  const marked = marks.cutBy === cutBy ? marks.marked : none;
  const setMarked = (change: (before: ReadonlySet<number>) => ReadonlySet<number>) =>
    setMarks((before) => ({ cutBy, marked: change(before.cutBy === cutBy ? before.marked : none) }));
  const isStream = material !== undefined && material.transport !== 'udp';
  const frames = useMemo((): readonly BenchFrame[] => {
    const pieces = material?.pieces ?? [];
    const cut = (each: readonly Piece[]) => {
      const bytes = each.map((piece) => piece.bytes);
      return framing ? cutFrames(framing, bytes, isStream) : bytes;
    };
    // Runs of one direction are cut together, so that the conversation keeps its order.
    const runs: Piece[][] = [];
    for (const piece of pieces) {
      if (runs.at(-1)?.[0]?.dir === piece.dir) runs.at(-1)?.push(piece);
      else runs.push([piece]);
    }
    return runs
      .flatMap((run) => cut(run).map((bytes) => ({ dir: run[0]?.dir ?? 'in', bytes })))
      .map((frame, n) => ({ ...frame, n, hex: toHex(frame.bytes) }));
  }, [material, framing, isStream]);
  const guesses = useMemo(
    () =>
      material
        ? learnFraming(
            material.pieces.filter(({ dir }) => dir === 'in').map(({ bytes }) => bytes),
            isStream,
          )
        : [],
    [material, isStream],
  );
  return {
    material,
    frames,
    guesses,
    marked,
    bring: (next: Material | undefined) => {
      setMaterial(next);
      setMarked(() => none);
    },
    mark: (n: number, on: boolean) =>
      setMarked((before) => {
        const next = new Set(before);
        if (on) next.add(n);
        else next.delete(n);
        return next;
      }),
    clear: () => setMarked(() => none),
  };
}

export type Frames = ReturnType<typeof useFrames>;
