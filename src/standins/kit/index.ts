export { DigestGuard } from './digest-guard';
export { isLost, Outlet } from './faults';
export { HouseSync } from './house-sync';
export { HttpStandin, type HttpAnswer, type HttpAsked } from './http-standin';
export { serveSites } from './http';
export { standinPage } from './page';
export { readByHand, Standin, type StandinOptions } from './standin';
export { TcpStandin, type Client } from './tcp-standin';
export { UdpStandin, type Peer } from './udp-standin';
