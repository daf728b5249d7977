'use client';

import { useState } from 'react';
import { pictureSize } from '../../core/show';
import { Button, FileDrop } from '../kit';

/** A file may be so large before it is scaled. */
const maxFileBytes = 30_000_000;

interface Props {
  readonly picture: string | undefined;
  readonly onPicture: (hash: string | undefined) => void;
}

/** A picture of one's own: dropped in or chosen, scaled here, and stored once whatever number of controls show it. */
export function PictureField({ picture, onPicture }: Props) {
  const [error, setError] = useState('');
  const [busy, setBusy] = useState(false);
  const take = async (file: File) => {
    setBusy(true);
    setError('');
    const stored = await storePicture(file).catch(() => ({
      ok: false as const,
      message: 'The desk is cut off from the program. Try again.',
    }));
    setBusy(false);
    if (stored.ok) onPicture(stored.hash);
    else setError(`“${file.name}” was not taken. ${stored.message}`);
  };
  return (
    <div className="picture-field grid gap-2">
      <FileDrop
        label="Picture"
        accept="image/png,image/jpeg,image/webp"
        disabled={busy}
        onFile={(file) => void take(file)}
      >
        {busy ? 'storing …' : undefined}
      </FileDrop>
      {picture && (
        <div className="col-span-full flex flex-wrap gap-2.5">
          <img src={`/pictures/${picture}`} alt="The picture of this control" className="max-h-20 max-w-30" />
          <Button onClick={() => onPicture(undefined)}>Remove picture</Button>
        </div>
      )}
      {error && (
        <p role="alert" className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">
          {error}
        </p>
      )}
    </div>
  );
}

type Stored = { readonly ok: true; readonly hash: string } | { readonly ok: false; readonly message: string };

async function storePicture(file: File): Promise<Stored> {
  if (file.size > maxFileBytes)
    return { ok: false, message: `It has ${Math.round(file.size / 1e6)} MB; ${maxFileBytes / 1e6} MB is the most.` };
  if (!/^image\/(png|jpeg|webp)$/.test(file.type))
    return {
      ok: false,
      message: `It is of the kind ${file.type || 'that the browser does not know'}. Use PNG, JPEG or WebP.`,
    };
  const bitmap = await createImageBitmap(file).catch(() => undefined);
  if (!bitmap) return { ok: false, message: 'It is broken: the browser cannot draw it.' };
  const scale = Math.min(1, pictureSize.width / bitmap.width, pictureSize.height / bitmap.height);
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(1, Math.round(bitmap.width * scale));
  canvas.height = Math.max(1, Math.round(bitmap.height * scale));
  canvas.getContext('2d')?.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  bitmap.close();
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/webp', 0.86));
  if (!blob) return { ok: false, message: 'The browser could not scale it.' };
  const answer = await fetch('/desk/pictures', { method: 'POST', body: blob });
  const body = (await answer.json()) as { readonly hash?: string; readonly message?: string };
  return body.hash ? { ok: true, hash: body.hash } : { ok: false, message: body.message ?? 'It was refused.' };
}
