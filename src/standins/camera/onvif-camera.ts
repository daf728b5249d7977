import { atPointer, readXml, soapContentType, soapEnvelope, type Json } from '../../core/wire';
import { DigestGuard, HttpStandin, type HttpAnswer, type HttpAsked } from '../kit';
import { byHandOn, cameraPage, type CameraOptions } from './by-hand';
import { CameraModel } from './model';
import { namespaces, onvifAnswer, OnvifFault, standardLooks, type Looks } from './onvif-services';
import { cameraStill } from './page';

export const onvifUser = 'operator';
export const onvifPassword = 'reach-and-bend-4';
const otherPassword = 'oxbow-12';

/** May be asked by everybody. */
const open: ReadonlySet<string> = new Set(['GetSystemDateAndTime', 'GetServices', 'GetCapabilities']);

/** The camera that speaks ONVIF: SOAP over HTTP, signed in by HTTP Digest. Its picture is at /still. */
export class OnvifCamera extends HttpStandin {
  readonly title = 'PTZ camera';
  private readonly guard: DigestGuard;
  private readonly model: CameraModel;
  private readonly looks: Looks = { ...standardLooks };
  private readonly names = new Map([[1, 'Finish line']]);
  private readonly home = { at: { pan: 0, tilt: 0, zoom: 0 } };
  private readonly ends = new Map<string, NodeJS.Timeout>();

  constructor(private readonly camera: CameraOptions) {
    super(camera);
    this.guard = new DigestGuard(`camera ${camera.tag}`);
    this.model = new CameraModel(camera.startAt, () => this.tell());
  }

  page = (): string => cameraPage(this.tag, this.title);
  still = (): string => cameraStill(this.camera.scene, this.model.seen);
  protected own = () => ({ ...this.model.state, scene: this.camera.scene, looks: this.looks });
  protected byHand = (body: unknown) => byHandOn(this.model, body);

  protected override frame(): void {
    this.model.frame();
  }

  override async stop(): Promise<void> {
    for (const timer of this.ends.values()) clearTimeout(timer);
    await super.stop();
  }

  protected answer({ method, path, headers, body }: HttpAsked): HttpAnswer {
    const name = method === 'POST' ? nameIn(body) : undefined;
    const isOpen = name !== undefined && open.has(name.local);
    const password = this.faults.otherPassword ? otherPassword : onvifPassword;
    if (!isOpen && !this.guard.admits(headers.authorization, method, path, onvifUser, password))
      return { status: 401, body: '', type: 'text/plain', headers: { 'www-authenticate': this.guard.challenge } };
    if (method === 'GET' && path === '/still') return { status: 200, body: this.still(), type: 'image/svg+xml' };
    if (!name) return { status: 400, body: 'The body is not a SOAP envelope.', type: 'text/plain' };
    const found = onvifAnswer(path, name.local);
    try {
      if (!found) throw new OnvifFault(['Receiver', 'ActionNotSupported'], `There is no ${name.local} here.`);
      const inside = found.answer(name.asked, {
        model: this.model,
        looks: this.looks,
        names: this.names,
        home: this.home,
        host: String(headers.host ?? ''),
        model2: this.faults.otherModel,
        now: new Date(),
        endAfter: (part, seconds) => this.endAfter(part, seconds),
      });
      const response = `${found.prefix}:${name.local}Response`;
      return soap(200, `<${response}>${inside}</${response}>`);
    } catch (error) {
      if (error instanceof OnvifFault) return soap(error.codes[0] === 'Sender' ? 400 : 500, faultBody(error));
      throw error;
    }
  }

  private endAfter(part: 'head' | 'zoom', seconds: number): void {
    clearTimeout(this.ends.get(part));
    const end = () => this.model.move(part === 'head' ? { panSpeed: 0, tiltSpeed: 0 } : { zoomSpeed: 0 });
    this.ends.set(part, setTimeout(end, seconds * 1000));
  }
}

/** The one element in the body of an envelope. */
function nameIn(text: string): { readonly local: string; readonly asked: Json } | undefined {
  const read = readXml(text);
  const body = read.ok ? atPointer(read.value, '/Envelope/Body') : undefined;
  const [first] = typeof body === 'object' && body !== null ? Object.entries(body) : [];
  return first && { local: first[0], asked: first[1] as Json };
}

const soap = (status: number, body: string): HttpAnswer => ({
  status,
  body: soapEnvelope(body, { ...namespaces, ter: 'http://www.onvif.org/ver10/error' }, undefined),
  type: soapContentType(''),
});

function faultBody({ codes: [outer, ...inner], message }: OnvifFault): string {
  const nested = inner.reduceRight(
    (inside, code) => `<s:Subcode><s:Value>ter:${code}</s:Value>${inside}</s:Subcode>`,
    '',
  );
  return `<s:Fault><s:Code><s:Value>s:${outer}</s:Value>${nested}</s:Code><s:Reason><s:Text xml:lang="en">${message}</s:Text></s:Reason></s:Fault>`;
}
