'use client';

import { Upload } from 'lucide-react';
import { useId, type ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';

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
      className="border-rule-strong data-over:border-accent data-over:bg-raised flex flex-wrap items-center gap-x-3 gap-y-1 border border-dashed px-3 py-2"
    >
      <span id={id} className="min-w-0 flex-1 basis-40">
        {label}
      </span>
      {children && <span className="text-ink-soft min-w-0 truncate">{children}</span>}
      <button
        type="button"
        disabled={disabled}
        onClick={open}
        aria-describedby={id}
        className="border-rule-strong hover:bg-tape disabled:text-ink-soft inline-flex min-h-9 items-center gap-2 border px-3.5 whitespace-nowrap"
      >
        <Upload aria-hidden size={16} />
        Choose a file
      </button>
      <span className="text-ink-soft text-[13px]">or drop it here</span>
      <input {...getInputProps({ ...(accept === undefined ? {} : { accept }) })} aria-label={label} />
    </div>
  );
}
