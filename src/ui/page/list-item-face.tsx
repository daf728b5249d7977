import type { ListItem } from '../../core/face';

/** What is shown of one thing that a device lists: its picture, its name and texts, and whether it is the current or the next one. */
export const ListItemFace = ({ item }: { readonly item: ListItem }) => (
  <>
    {item.picture && <img src={item.picture} alt="" draggable={false} />}
    <span className={item.doubt ? `tape-${item.doubt}` : undefined}>
      <b>{item.title}</b>
      {item.texts.map((text) => (
        <span key={text} className="muted">
          {text}
        </span>
      ))}
    </span>
    {item.mark && <em className={`list-mark list-mark-${item.mark}`}>{item.mark === 'current' ? 'now' : 'next'}</em>}
  </>
);
