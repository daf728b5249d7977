import { describe, expect, it } from 'vitest';
import { maxShowFileBytes } from '../../core/show';
import { uploadShow } from './upload';

describe('a show file that is sent', () => {
  it('above 200 MB is refused with its size, before a byte of it is sent', async () => {
    const file = { size: maxShowFileBytes + 1 } as Blob;
    expect(await uploadShow(file, () => undefined).done).toEqual({
      ok: false,
      message: 'The file has 201 MB; 200 MB is the most that can be loaded.',
    });
  });
});
