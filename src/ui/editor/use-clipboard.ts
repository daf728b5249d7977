'use client';

import { useEffect } from 'react';
import { isTyping } from '../frame';
import type { Verbs } from './verbs';

/** What was copied last in this window, for where the browser does not let a page read the clipboard. */
let lastCopied = '';

/** Cut, copy and paste of the browser act on the controls that are chosen, as text, so that they go between windows. */
export function useClipboard(verbs: Verbs): void {
  useEffect(() => {
    const take = (event: ClipboardEvent, cut: boolean) => {
      if (isTyping(event.target) || !window.getSelection()?.isCollapsed) return;
      const text = verbs.copy();
      if (text === undefined) return;
      event.clipboardData?.setData('text/plain', text);
      event.preventDefault();
      lastCopied = text;
      if (cut) verbs.clear();
    };
    const onCopy = (event: ClipboardEvent) => take(event, false);
    const onCut = (event: ClipboardEvent) => take(event, true);
    const onPaste = (event: ClipboardEvent) => {
      if (isTyping(event.target)) return;
      event.preventDefault();
      verbs.paste(event.clipboardData?.getData('text/plain') ?? '');
    };
    document.addEventListener('copy', onCopy);
    document.addEventListener('cut', onCut);
    document.addEventListener('paste', onPaste);
    return () => {
      document.removeEventListener('copy', onCopy);
      document.removeEventListener('cut', onCut);
      document.removeEventListener('paste', onPaste);
    };
  }, [verbs]);
}

/** Copies what is chosen from a button. On plain HTTP a browser has no clipboard to write to; then this window remembers it. */
export function copyChosen(verbs: Verbs): boolean {
  const text = verbs.copy();
  if (text === undefined) return false;
  lastCopied = text;
  void navigator.clipboard?.writeText(text).catch(() => undefined);
  return true;
}

/** Pastes from a button: what the clipboard has, where the browser lets a page read it, else what was copied in this window. */
export async function pasteHere(verbs: Verbs): Promise<void> {
  const text = await navigator.clipboard?.readText().catch(() => undefined);
  verbs.paste(text ?? lastCopied);
}
