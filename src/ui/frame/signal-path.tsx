'use client';

import { X } from 'lucide-react';
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import {
  isPressed,
  type AsRunRow,
  type RunsView,
  type ScreensView,
  type StatusView,
  type WireRow,
} from '../../core/live';
import { inNumberOrder } from '../../core/number-order';
import { isWell } from '../../core/session';
import { useAsRun, useNow, useRuns, useScreens, useStatus, useWireNowAndThen } from '../live';
import { ageText } from '../parts';
import { AllLinks } from './all-links';

/** The most devices that are named in the stage; the list has them all. */
const mostNamed = 2;

interface Stage {
  readonly href: string;
  readonly name: string;
  readonly health: string;
  /** The addresses of the other screens of this stage. */
  readonly besides?: readonly string[];
  readonly bad?: boolean;
  /** A click on its health opens the list of all links; this is the health in full. */
  readonly listed?: string;
}

const healthClass =
  'text-ink-soft group-data-bad:text-ink truncate text-[12px] leading-4.5 group-data-bad:font-semibold';

/** The way through the program, drawn as a line with its stages in the order of the work, each with its health. */
export function SignalPath() {
  const path = usePathname();
  const status = useStatus();
  const wire = useWireNowAndThen(1000);
  const asRun = useAsRun();
  const now = useNow();
  const screens = useScreens();
  const runs = useRuns();
  const stages: readonly Stage[] = [
    rigStage(status),
    wireStage(wire?.rows, now),
    pagesStage(status),
    macrosStage(status, runs),
    lineCheckStage(status, now),
    panelsStage(screens),
    healthStage(status),
    asRunStage(asRun?.rows, status),
  ];
  return (
    <nav
      aria-label="Signal path"
      className="max-w-190 flex-[1_1_500px] max-[1180px]:order-3 max-[1180px]:max-w-none max-[1180px]:basis-full [&_ol]:grid [&_ol]:[grid-auto-columns:1fr] [&_ol]:grid-flow-col"
    >
      <ol>
        {stages.map((stage) => {
          const here = [stage.href, ...(stage.besides ?? [])].some((href) => path.startsWith(href));
          // What is unresolved is mended where the pages are edited.
          const href = stage.bad && stage.href === '/pages' ? '/pages?edit=1' : stage.href;
          return (
            <li
              key={stage.href}
              data-stage={stage.name}
              data-here={here || undefined}
              data-bad={stage.bad || undefined}
              className="group relative min-w-0 before:absolute before:inset-x-0 before:top-3.5 before:border-t-2 before:border-rule-strong last:before:right-auto last:before:w-3"
            >
              <Link
                href={href}
                aria-current={here ? 'page' : undefined}
                className="grid min-h-11 grid-cols-[14px_minmax(0,1fr)] content-center items-center gap-x-1.5 group-has-[button]:mb-5.5 group-has-[button]:min-h-5.5 group-has-[button]:content-end"
              >
                <span
                  className="relative size-3.5 rounded-full border-2 border-rule-strong bg-ground group-data-bad:rounded-none group-data-bad:border-fault group-data-bad:bg-fault group-data-bad:text-fault-ink group-data-here:border-accent group-data-here:bg-accent"
                  aria-hidden
                >
                  {stage.bad && <X className="size-full" strokeWidth={4} />}
                </span>
                <span className="relative max-w-full justify-self-start truncate bg-ground pr-1.5 text-[14px] leading-4.5 font-semibold group-data-here:text-accent">
                  {stage.name}
                </span>
                {!stage.listed && (
                  <span className={`col-2 ${healthClass}`} title={stage.health}>
                    {stage.health}
                  </span>
                )}
              </Link>
              {stage.listed && (
                <AllLinks>
                  <button
                    type="button"
                    className={`absolute bottom-0 left-5 min-h-6 max-w-[calc(100%-20px)] text-left hover:underline ${healthClass}`}
                    aria-label={`All links: ${stage.listed}`}
                  >
                    {stage.health}
                  </button>
                </AllLinks>
              )}
            </li>
          );
        })}
      </ol>
    </nav>
  );
}

function rigStage(status: StatusView | undefined): Stage {
  const base = { href: '/rig', name: 'Rig' };
  if (!status) return { ...base, health: '…' };
  const links = Object.values(status.devices).filter(({ link }) => link.word !== 'off');
  if (links.length === 0) return { ...base, health: 'no devices' };
  const bad = links.filter(({ link }) => !isWell(link.word));
  const good = links.length - bad.length;
  // Devices that are well are a number, those that are not are named.
  const tags = bad.map(({ tag }) => tag).sort(inNumberOrder);
  return {
    ...base,
    health: bad.length === 0 ? `${good} up` : bad.length <= mostNamed ? tags.join(', ') : `${bad.length} not up`,
    bad: bad.length > 0,
    listed:
      bad.length === 0 ? `${good} of ${links.length} up` : `${tags.join(', ')} not up, ${good} of ${links.length} up`,
  };
}

function wireStage(rows: readonly WireRow[] | undefined, now: number): Stage {
  const last = rows?.at(-1);
  const base = { href: '/wire', name: 'Wire' };
  if (!rows) return { ...base, health: '…' };
  if (!last || now === 0) return { ...base, health: 'nothing yet' };
  const recent = rows.filter((row) => now - row.at < 5000).length;
  return { ...base, health: recent > 0 ? `${recent} in 5 s` : `quiet ${ageText(now - last.at)}` };
}

function pagesStage(status: StatusView | undefined): Stage {
  const base = { href: '/pages', name: 'Pages' };
  if (!status) return { ...base, health: '…' };
  const { problems } = status.show;
  const pages = status.pages.length === 1 ? '1 page' : `${status.pages.length} pages`;
  return { ...base, health: problems > 0 ? `${problems} unresolved` : pages, bad: problems > 0 };
}

function macrosStage(status: StatusView | undefined, runs: RunsView | undefined): Stage {
  const base = { href: '/macros', name: 'Macros', besides: ['/snapshots', '/watches', '/variables', '/inlets'] };
  if (!status || !runs) return { ...base, health: '…' };
  const count = Object.keys(runs).length;
  if (count > 0) return { ...base, health: `${count} running` };
  const { macros } = status;
  return { ...base, health: macros === 0 ? 'none yet' : macros === 1 ? '1 macro' : `${macros} macros` };
}

function lineCheckStage(status: StatusView | undefined, now: number): Stage {
  const base = { href: '/line-check', name: 'Check' };
  const figures = status?.lineCheck;
  if (!status || now === 0) return { ...base, health: '…' };
  if (!figures || figures.at === null) return { ...base, health: 'not yet' };
  const { failed, passed, total, at } = figures;
  if (failed > 0) return { ...base, health: `${failed} failed`, bad: true };
  const share = total === 0 ? 100 : Math.floor((100 * passed) / total);
  return { ...base, health: `${share} %, ${ageText(now - at)}` };
}

function panelsStage(screens: ScreensView | undefined): Stage {
  const base = { href: '/panels', name: 'Panels' };
  if (!screens) return { ...base, health: '…' };
  const open = Object.values(screens).filter(({ kind }) => kind === 'panel').length;
  return { ...base, health: open === 0 ? 'none open' : `${open} open` };
}

function healthStage(status: StatusView | undefined): Stage {
  const base = { href: '/health', name: 'Health' };
  const health = status?.health;
  if (!health) return { ...base, health: '…' };
  const { open, seen, rising } = health;
  if (open.length > 0)
    return { ...base, health: open.length === 1 ? '1 incident' : `${open.length} incidents`, bad: true };
  if (seen > 0) return { ...base, health: `${seen} acknowledged` };
  return { ...base, health: rising === 0 ? 'all well' : `${rising} near a limit` };
}

function asRunStage(rows: readonly AsRunRow[] | undefined, status: StatusView | undefined): Stage {
  const base = { href: '/as-run', name: 'As-run' };
  if (status && !status.recording) return { ...base, health: 'not written', bad: true };
  if (!rows) return { ...base, health: '…' };
  const last = rows.findLast(isPressed);
  return { ...base, health: last ? `last ${last.outcome}` : 'no press yet' };
}
