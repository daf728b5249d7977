// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, it, vi } from 'vitest';
import { FileDrop } from './file-drop';

afterEach(cleanup);

const file = (name: string) => new File(['lanes one to six'], name, { type: 'text/plain' });
const dropped = (...files: File[]) => ({
  dataTransfer: {
    files,
    items: files.map((each) => ({ kind: 'file', type: each.type, getAsFile: () => each })),
    types: ['Files'],
  },
});

it('takes a file that is dropped and one that is chosen, and the same one again', async () => {
  const onFile = vi.fn<(file: File) => void>();
  render(<FileDrop label="Show file to load" accept=".json" onFile={onFile} />);
  const place = screen.getByText('Show file to load').closest('[data-file-drop]');
  if (!place) throw new Error('There is no place for a file.');
  fireEvent.drop(place, dropped(file('notes.txt')));
  await waitFor(() => expect(onFile).toHaveBeenCalledTimes(1));
  for (const times of [2, 3]) {
    fireEvent.change(screen.getByLabelText('Show file to load'), { target: { files: [file('show.json')] } });
    await waitFor(() => expect(onFile).toHaveBeenCalledTimes(times));
  }
  expect(onFile.mock.calls.map(([each]) => each.name)).toEqual(['notes.txt', 'show.json', 'show.json']);
});

it('takes nothing while it is disabled, and has a button that says what it chooses', async () => {
  const onFile = vi.fn<(file: File) => void>();
  render(<FileDrop label="Picture" disabled onFile={onFile} />);
  const button = screen.getByRole('button', { name: 'Choose a file', description: 'Picture' });
  expect(button).toHaveProperty('disabled', true);
  const place = button.closest('[data-file-drop]');
  if (!place) throw new Error('There is no place for a file.');
  fireEvent.drop(place, dropped(file('crest.png')));
  await new Promise((resolve) => setTimeout(resolve, 20));
  expect(onFile).not.toHaveBeenCalled();
});
