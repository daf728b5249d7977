'use client';

import { Upload } from 'lucide-react';
import { useId, type ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';
import { Button } from './button';

interface Props {
  readonly label: string;
  /** What the file dialog offers first, as in an `accept` attribute. Other files can still come: `onFile` has to check. */
  readonly accept?: string;
  readonly disabled?: boolean;
  readonly onFile: (file: File) => void;
  /** The file that was taken, or what is done with it. */
  readonly children?: ReactNode;
}

/** A place for one file: dropped there, or chosen in a dialog. */
export function FileDrop({ label, accept, disabled = false, onFile, children }: Props) {
  const id = useId();
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    disabled,
    multiple: false,
    noClick: true,
    noKeyboard: true,
    onDrop: ([file]) => {
      if (file) onFile(file);
    },
  });
  return (
    <div
      {...getRootProps()}
      data-file-drop
      data-over={isDragActive || undefined}
      className="flex flex-wrap items-center gap-x-3 gap-y-1 border border-dashed border-rule-strong px-3 py-2 data-over:border-accent data-over:bg-raised"
    >
      <span id={id} className="min-w-0 flex-1 basis-40">
        {label}
      </span>
      {children && <span className="min-w-0 truncate text-ink-soft">{children}</span>}
      <Button disabled={disabled} onClick={open} aria-describedby={id}>
        <Upload aria-hidden size={16} />
        Choose a file
      </Button>
      <span className="text-[13px] text-ink-soft">or drop it here</span>
      <input {...getInputProps({ ...(accept === undefined ? {} : { accept }) })} aria-label={label} />
    </div>
  );
}
