/** How movements of gear become values of controls. */

/** A stick at rest is never quite in the middle: nothing moves inside this part of its way. */
const deadZone = 0.12;

/** The position of a stick outside its dead zone, from -1 to 1; it begins at the edge of the zone, so that nothing jumps. */
export function outOfDeadZone(x: number, y: number, dead = deadZone): { readonly x: number; readonly y: number } {
  const far = Math.hypot(x, y);
  if (far <= dead) return { x: 0, y: 0 };
  const scale = Math.min(1, (far - dead) / (1 - dead)) / far;
  return { x: x * scale, y: y * scale };
}

const near = 0.03;

/**
 * A fader without a motor can be at another position than the device. It takes hold where it comes past the device's value, and until then it
 * moves nothing.
 */
export class PickUp {
  private last: number | undefined;
  private holds = false;

  /**
   * The hand comes back to the fader after it had let go. Where the device is not any more where the fader has left it, somebody else has
   * moved it, and the fader takes hold anew.
   */
  resumes(device: number | undefined): void {
    if (device !== undefined && this.last !== undefined && Math.abs(device - this.last) > near) this.holds = false;
  }

  /**
   * @param to the position of the fader now, 0 to 1
   * @param device the position of the device, 0 to 1; `undefined` when it is not known
   * @returns true when the device shall go there
   */
  moved(to: number, device: number | undefined): boolean {
    const { last } = this;
    this.last = to;
    if (device === undefined) this.holds = true;
    else if (Math.abs(to - device) <= near || (last !== undefined && (last - device) * (to - device) <= 0))
      this.holds = true;
    return this.holds;
  }
}

/** Notches that are farther apart than this are turned slowly, nearer than the other as fast as can be. In milliseconds. */
const slowMs = 160;
const fastMs = 30;

/**
 * How much one notch of a wheel counts.
 * @param sinceMs how long ago the one before it was
 * @param quicken how many times as much it counts at the most
 */
export function notch(tick: number, quicken: number, sinceMs: number): number {
  const fast = Math.min(1, Math.max(0, (slowMs - sinceMs) / (slowMs - fastMs)));
  return tick * (1 + (quicken - 1) * fast);
}
