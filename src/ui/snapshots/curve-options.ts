import { glideCurves, glideCurveTitles, type GlideCurve } from '../../core/show';
import type { SelectOption } from '../kit';

/** The curves of a glide, to choose from. */
export const curveOptions: SelectOption<GlideCurve>[] = glideCurves.map((value) => ({
  value,
  title: glideCurveTitles[value],
}));
