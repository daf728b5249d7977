import { glideCurves, type GlideCurve } from '../../core/show';
import type { SelectOption } from '../kit';

const titles: Readonly<Record<GlideCurve, string>> = {
  linear: 'Linear',
  smooth: 'Smooth',
  accelerating: 'Accelerating',
  decelerating: 'Decelerating',
};

/** The curves of a glide, to choose from. */
export const curveOptions: SelectOption<GlideCurve>[] = glideCurves.map((value) => ({ value, title: titles[value] }));
