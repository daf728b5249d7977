import type { ControlView, FaceView } from '../../core/live';
import { partOf } from '../../core/face';
import { ListItemFace } from './list-item-face';
import { columnsOf, PresetFace, presetGridClass, presetTileClass } from './preset-face';
import { lies, RangeTrack } from './range-track';
import { listActsClass, listClass, listRowClass } from './list-look';
import { StickPad, stickMiddle } from './stick-pad';

interface Props {
  readonly face: FaceView;
  readonly view: ControlView;
}

/** What a control has below its face by its kind, as a panel shows it now, but only drawn: nothing in it can be handled. */
export function DrawnKind({ face, view }: Props) {
  switch (view.type) {
    case 'fader':
    case 'dial': {
      const { min = 0 } = view.range ?? {};
      const max = face.range?.max ?? view.range?.max ?? 1;
      const value = face.range?.value;
      return (
        <>
          <span
            className={`range-value flex-none border-t [border-top-style:dotted] border-rule py-0.5 font-mono text-[14px] in-data-lying:border-t-0 ${face.range?.doubt ? `tape-${face.range.doubt}` : ''}`}
          >
            {face.range?.text ?? '–'}
          </span>
          <RangeTrack
            dial={view.type === 'dial'}
            isLying={view.type === 'fader' && lies(view)}
            part={value === undefined ? undefined : partOf(value, min, max)}
          />
        </>
      );
    }
    case 'stick':
      return <StickPad at={stickMiddle} axes={view.axes} />;
    case 'list':
      return (
        <>
          <span className={`${listClass} block overflow-hidden!`} data-form={view.list?.form ?? 'small'} aria-hidden>
            {(face.items ?? []).slice(0, 40).map((item) => (
              <span key={item.index} className={listRowClass} data-mark={item.mark}>
                <ListItemFace item={item} />
              </span>
            ))}
            {(face.items ?? []).length === 0 && (
              <span className="p-2.5 text-[13px] text-ink-soft">The device lists nothing now.</span>
            )}
          </span>
          <span className={listActsClass} aria-hidden>
            {(view.list?.acts ?? []).map(({ title, ask }) => (
              <span key={title}>
                {title}
                {ask && ' …'}
              </span>
            ))}
          </span>
        </>
      );
    case 'presets':
      return (
        <span className={`${presetGridClass} overflow-hidden!`} style={columnsOf(view.presets?.columns)} aria-hidden>
          {(face.tiles ?? []).map((tile) => (
            <span key={`${tile.device} ${tile.number}`} className={presetTileClass} data-mark={tile.mark}>
              <PresetFace tile={tile} />
            </span>
          ))}
        </span>
      );
    case 'button':
    case 'readout':
      return null;
  }
}
