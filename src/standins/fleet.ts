import type { AddressInfo } from 'node:net';
import { HouseSync } from './house-sync';
import { serveSites } from './http';
import { SwitcherStandin } from './switcher/server';
import { switcherSite } from './switcher/site';

export interface FleetOptions {
  readonly host: string;
  /** The pages are on this port, each device on the one after its place; 0 picks free ports. */
  readonly portBase: number;
}

export interface Fleet {
  readonly switcher: SwitcherStandin;
  /** The port of the pages. */
  readonly pagePort: number;
  readonly stop: () => Promise<void>;
}

/** Ports of the stand-ins, counted from the base. */
export const standinPorts = { pages: 0, SW1: 1 } as const;

/** Starts all stand-ins on one house sync, with their pages. */
export async function startFleet({ host, portBase }: FleetOptions): Promise<Fleet> {
  const sync = new HouseSync(25);
  const at = (offset: number) => (portBase === 0 ? 0 : portBase + offset);
  const switcher = new SwitcherStandin({ sync, host, port: at(standinPorts.SW1) });
  await switcher.setPower(true);
  const http = await serveSites([switcherSite('SW1', switcher)], host, at(standinPorts.pages));
  return {
    switcher,
    pagePort: (http.address() as AddressInfo).port,
    stop: async () => {
      sync.stop();
      await switcher.stop();
      http.closeAllConnections();
      await new Promise<void>((resolve) => void http.close(() => resolve()));
    },
  };
}
