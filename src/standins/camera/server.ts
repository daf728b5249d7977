import { ByteFramer, decodeViscaPacket, encodeViscaPacket } from '../../core/wire';
import { TcpStandin, UdpStandin, type Client, type Peer } from '../kit';
import { byHandOn, cameraPage, type CameraOptions } from './by-hand';
import { CameraModel } from './model';
import { cameraStill } from './page';
import { CameraSockets } from './sockets';

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

  page = (): string => cameraPage(this.tag, this.title);
  still = (): string => cameraStill(this.camera.scene, this.model.seen);
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

  page = (): string => cameraPage(this.tag, this.title);
  still = (): string => cameraStill(this.camera.scene, this.model.seen);
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
