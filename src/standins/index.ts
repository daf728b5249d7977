export { composerPassword } from './composer/server';
export { encoderPassword, encoderUser } from './encoder/server';
export { standinPorts, standinTags, startFleet, type Fleet, type StandinTag } from './fleet';
export { GatewayStandin } from './gateway/server';
export { HouseSync } from './kit';
export { canStandIn, Rehearsal } from './rehearsal';
export { screenPassword, ScreenStandin } from './screen/server';
export { SwitcherStandin } from './switcher/server';
export { viewerPassword, viewerUser } from './viewer/server';
