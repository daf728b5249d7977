import { parentPort } from 'node:worker_threads';

/**
 * The inside of a worker thread: the first message is its data, every later one an order.
 *
 * @param begin called once with the data; returns what handles the orders
 */
export function serveWorker<Data, Order>(begin: (data: Data) => (order: Order) => void): void {
  let handle: ((order: Order) => void) | undefined;
  parentPort?.on('message', (message: unknown) => {
    if (handle) handle(message as Order);
    else handle = begin(message as Data);
  });
}
