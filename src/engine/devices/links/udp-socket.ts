import { createSocket, type Socket } from 'node:dgram';
import { isIP, isIPv6 } from 'node:net';
import type { DriverDocument } from '../../../core/driver';
import type { LinkAddress } from './link';

/** Hops that multicast may take: networks route it only where somebody has set them up for it. */
const multicastHops = 16;

/**
 * A connected datagram socket, so that a closed port is told where the system passes that on.
 *
 * @param onOpen called once it can send
 */
export function udpSocket(
  { host, port }: Pick<LinkAddress, 'host' | 'port'>,
  { delivery, localAddress }: Pick<DriverDocument['link'], 'delivery' | 'localAddress'>,
  onOpen: () => void,
): Socket {
  const socket = createSocket({ type: isIPv6(host) ? 'udp6' : 'udp4' });
  socket.on('connect', onOpen);
  if (delivery === 'one' && localAddress === '') socket.connect(port, host);
  else
    socket.bind({ port: 0, ...(localAddress === '' ? {} : { address: localAddress }) }, () => {
      socket.setBroadcast(delivery === 'broadcast');
      if (delivery === 'multicast') {
        socket.setMulticastTTL(multicastHops);
        // Programs on this computer may listen, too.
        socket.setMulticastLoopback(true);
        if (isIP(localAddress)) socket.setMulticastInterface(localAddress);
      }
      socket.connect(port, host);
    });
  return socket;
}
