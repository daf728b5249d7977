import type { LocalPortInfo } from '../core/diagnosis';
import { midiPlace } from '../core/net';

/** The MIDI ports of this computer, by name, whether they can be written to, read from, or both. None where the system has no MIDI. */
export async function listMidiPorts(): Promise<readonly LocalPortInfo[]> {
  try {
    const { Input, Output } = await import('@julusian/midi');
    const names = new Set([...Output.getPortNames(), ...Input.getPortNames()]);
    return Array.from(names, (name) => ({ path: midiPlace(name), title: name }));
  } catch {
    // The library throws where the system has no MIDI at all; then there are no ports either.
    return [];
  }
}
