import type { DriverDocument } from '../../core/driver';

/** What a device is spoken to over, as a network tool sees it: HTTP, WebSocket and MQTT are TCP. */
export const transportOf = ({ link }: DriverDocument): 'tcp' | 'udp' => (link.kind === 'udp' ? 'udp' : 'tcp');
