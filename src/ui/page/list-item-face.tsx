import type { ListItem } from '../../core/face';

/** What is shown of one thing that a device lists: its picture, its name and texts, and whether it is the current or the next one. */
export const ListItemFace = ({ item }: { readonly item: ListItem }) => (
  <>
    {item.picture && (
      <img
        src={item.picture}
        alt=""
        draggable={false}
        className="in-data-[form=large]:aspect-[16/9] in-data-[form=large]:w-full in-data-[form=large]:object-cover in-data-[form=small]:h-9"
      />
    )}
    <span className={item.doubt ? `tape-${item.doubt}` : undefined}>
      <b>{item.title}</b>
      {item.texts.map((text) => (
        <span key={text} className="text-[13px] text-ink-soft">
          {text}
        </span>
      ))}
    </span>
    {item.mark && (
      <em
        className={`px-1.75 text-[13px] font-bold not-italic in-data-[form=large]:absolute in-data-[form=large]:top-1 in-data-[form=large]:right-1 ${item.mark === 'current' ? 'bg-accent text-accent-ink' : 'bg-next text-next-ink'}`}
      >
        {item.mark === 'current' ? 'now' : 'next'}
      </em>
    )}
  </>
);
