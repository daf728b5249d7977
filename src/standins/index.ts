export { startFleet, standinPorts, type Fleet, type FleetOptions } from './fleet';
export { HouseSync } from './house-sync';
export { SwitcherStandin } from './switcher/server';
