import { z } from 'zod';
import { ByteFramer, decodeViscaPacket, encodeViscaPacket } from '../../core/wire';
import { readByHand, standinPage, TcpStandin, UdpStandin, type Client, type Peer, type StandinOptions } from '../kit';
import { CameraModel, presetCount, type Pose } from './model';
import { cameraBody, cameraCss, cameraScript, cameraStill } from './page';
import { CameraSockets } from './sockets';

interface CameraOptions extends StandinOptions {
  /** What it looks at, for its picture. */
  readonly scene: string;
  readonly startAt: Pose;
}

const speed = z.number().min(-24).max(24);
const operation = z.discriminatedUnion('verb', [
  z.strictObject({ verb: z.literal('move'), pan: speed.default(0), tilt: speed.default(0), zoom: speed.default(0) }),
  z.strictObject({
    verb: z.literal('recall'),
    preset: z
      .number()
      .int()
      .min(0)
      .max(presetCount - 1),
  }),
  z.strictObject({ verb: z.literal('focus'), auto: z.boolean() }),
  z.strictObject({ verb: z.literal('tally'), on: z.boolean() }),
  z.strictObject({ verb: z.literal('menu'), on: z.boolean() }),
]);

/** What both kinds of camera share: the model, its page, and what can be done by hand. */
function byHandOn(model: CameraModel, body: unknown): string | undefined {
  return readByHand(operation, body, (order) => {
    switch (order.verb) {
      case 'move':
        return void model.move({ panSpeed: order.pan, tiltSpeed: order.tilt, zoomSpeed: order.zoom });
      case 'recall': {
        const pose = model.state.presets[order.preset];
        if (!pose) return `Preset ${order.preset} is empty.`;
        return void model.goTo(pose, 20, () => undefined);
      }
      case 'focus':
        return void model.set({ focusAuto: order.auto });
      case 'tally':
        return void model.set({ tally: order.on });
      case 'menu':
        return void model.set({ menu: order.on });
    }
  });
}

const pageOf = (tag: string, title: string): string =>
  standinPage({ tag, title, css: cameraCss, body: cameraBody, script: cameraScript });

/** A camera that takes messages in datagrams: behind a header, whose number it answers with, or without one. */
export class UdpCamera extends UdpStandin {
  readonly title = 'PTZ camera';
  private readonly model: CameraModel;
  private readonly slots: CameraSockets;

  constructor(
    private readonly camera: CameraOptions,
    private readonly header = true,
  ) {
    super(camera);
    this.model = new CameraModel(camera.startAt, () => this.tell());
    this.slots = new CameraSockets(this.model, () => this.faults.otherModel);
  }

  page = (): string => pageOf(this.tag, this.title);
  still = (): string => cameraStill(this.camera.scene, this.model.state);
  protected own = () => ({ ...this.model.state, scene: this.camera.scene });
  protected byHand = (body: unknown) => byHandOn(this.model, body);

  protected override frame(): void {
    this.model.frame();
  }

  protected onDatagram(peer: Peer, bytes: Uint8Array): void {
    if (!this.header) {
      if (this.faults.taken) return void peer.send(Uint8Array.of(0x90, 0x60, 0x05, 0xff));
      return this.slots.take(bytes, (said) => peer.send(said));
    }
    const packet = decodeViscaPacket(bytes);
    if (!packet.ok) return;
    const { type, sequence, payload } = packet.value;
    if (type === 'control') {
      // Anything but the reset of the counting is an error of the message.
      const known = payload.length === 1 && payload[0] === 0x01;
      const answer = known ? [0x01] : [0x0f, 0x02];
      return peer.send(encodeViscaPacket({ type: 'controlReply', sequence, payload: Uint8Array.from(answer) }));
    }
    if (type !== 'command' && type !== 'inquiry') return;
    const reply = (said: Uint8Array) => peer.send(encodeViscaPacket({ type: 'reply', sequence, payload: said }));
    // Held by somebody else: nothing is carried out.
    if (this.faults.taken) return reply(Uint8Array.of(0x90, 0x60, 0x05, 0xff));
    this.slots.take(payload, reply);
  }
}

/** The same camera with the same messages over a bare stream, without a header. */
export class TcpCamera extends TcpStandin {
  readonly title = 'PTZ camera';
  private readonly model: CameraModel;
  private readonly slots: CameraSockets;

  constructor(private readonly camera: CameraOptions) {
    super(camera);
    this.model = new CameraModel(camera.startAt, () => this.tell());
    this.slots = new CameraSockets(this.model, () => this.faults.otherModel);
  }

  page = (): string => pageOf(this.tag, this.title);
  still = (): string => cameraStill(this.camera.scene, this.model.state);
  protected own = () => ({ ...this.model.state, scene: this.camera.scene });
  protected byHand = (body: unknown) => byHandOn(this.model, body);

  protected override frame(): void {
    this.model.frame();
  }

  protected welcome(client: Client): (chunk: Uint8Array) => void {
    const framer = new ByteFramer({ kind: 'terminated', terminator: Uint8Array.of(0xff) }, 16);
    return (chunk) => {
      for (const frame of framer.push(chunk)) {
        if (frame.kind === 'dropped') client.send(Uint8Array.of(0x90, 0x60, 0x01, 0xff));
        else if (this.faults.taken) client.send(Uint8Array.of(0x90, 0x60, 0x05, 0xff));
        else this.slots.take(frame.raw, (said) => client.send(said));
      }
    };
  }
}
