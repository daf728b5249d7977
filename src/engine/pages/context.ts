import type { FaceView } from '../../core/face';
import type { LampMemory } from '../../core/lamp';
import type { PageContext } from '../../core/page';
import type { ControlRecord } from '../../core/show';

/** A page as somebody looks at it: on a shift level, with devices picked in its zones. */
export interface Context {
  readonly key: string;
  readonly page: string;
  readonly asked: PageContext;
  /** Zone to the device that it drives now. */
  readonly picked: Map<string, string>;
  /** The controls as they are in this context. */
  readonly controls: Map<string, ControlRecord>;
  readonly faces: Map<string, { readonly view: FaceView; readonly key: string }>;
  /** What each control's rules remember from one look to the next. */
  readonly memories: Map<string, LampMemory>;
}

/** Names a control or a zone in a context, for indexes. */
export const markOf = ({ key }: Context, id: string): string => `${key}|${id}`;
