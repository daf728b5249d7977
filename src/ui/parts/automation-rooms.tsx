import Link from 'next/link';

const rooms = [
  { id: 'macros', title: 'Macros', href: '/macros' },
  { id: 'snapshots', title: 'Snapshots', href: '/snapshots' },
  { id: 'watches', title: 'Watches', href: '/watches' },
  { id: 'variables', title: 'Variables', href: '/variables' },
  { id: 'inlets', title: 'Inlets', href: '/inlets' },
] as const;

/** The heading of the screens that share a stage of the signal path: the one that is open, and the way to the others. */
export const AutomationRooms = ({ here, id }: { readonly here: (typeof rooms)[number]['id']; readonly id: string }) => (
  <span className="flex flex-wrap items-baseline gap-x-3">
    {rooms.map((room) =>
      room.id === here ? (
        <h1 key={room.id} id={id} className="text-[20px] font-semibold [font-stretch:88%]">
          {room.title}
        </h1>
      ) : (
        <Link
          key={room.id}
          href={room.href}
          className="inline-flex min-h-8 items-center text-[15px] underline decoration-rule-strong underline-offset-4 hover:decoration-accent"
        >
          {room.title}
        </Link>
      ),
    )}
  </span>
);
