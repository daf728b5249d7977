import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it, onTestFinished } from 'vitest';
import { noLog } from '../../log';
import { PanelAccess } from './panel-access';

function folder(): string {
  const dir = mkdtempSync(join(tmpdir(), 'sorrelfinch-joins-'));
  onTestFinished(() => rmSync(dir, { recursive: true, force: true }));
  return dir;
}

describe('ways in for panels', () => {
  it('are good once, and for ten minutes', () => {
    let now = 1000;
    const joins = new PanelAccess(folder(), noLog, () => now);
    const { token, forMs } = joins.invite('pan-1');
    const first = joins.join(token, 'iPad');
    expect(first).toMatchObject({ ok: true, panel: 'pan-1' });
    expect(joins.join(token, 'iPad')).toEqual({ ok: false, why: 'used' });
    expect(joins.join('made-up-made-up-made-up', 'iPad')).toEqual({ ok: false, why: 'unknown' });
    const late = joins.invite('pan-1');
    now += forMs + 1;
    expect(joins.join(late.token, 'iPad')).toEqual({ ok: false, why: 'unknown' });
  });

  it('let a screen in again after a start, until it is thrown out; secrets are not kept', async () => {
    const dir = folder();
    const joins = new PanelAccess(dir);
    const joined = joins.join(joins.invite('pan-1').token, 'iPad');
    if (!joined.ok) throw new Error('not joined');
    await joins.settled();
    const file = join(dir, 'joined-panels.json');
    expect(readFileSync(file, 'utf8')).not.toContain(joined.credential.split('.')[1]);
    expect(statSync(file).mode & 0o077).toBe(0);
    const again = new PanelAccess(dir);
    const who = again.whoIs(joined.credential);
    expect(who).toMatchObject({ panel: 'pan-1', device: 'iPad' });
    expect(again.whoIs(`${who?.id}.guess`)).toBeUndefined();
    expect(again.whoIs('')).toBeUndefined();
    expect(again.throwOut(who?.id ?? '')).toBe(true);
    await again.settled();
    expect(new PanelAccess(dir).whoIs(joined.credential)).toBeUndefined();
  });

  it('begin empty where the file is damaged', () => {
    const dir = folder();
    writeFileSync(join(dir, 'joined-panels.json'), '{"half');
    expect(new PanelAccess(dir).whoIs('a.b')).toBeUndefined();
  });
});
