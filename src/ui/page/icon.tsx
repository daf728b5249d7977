import icons from './icons.svg';

const { src } = icons as { readonly src: string };

/** An icon of the set that ships, by its name. A name that is not in it shows nothing. */
export const Icon = ({ name }: { readonly name: string }) => (
  <svg className="icon" aria-hidden viewBox="0 0 24 24">
    <use href={`${src}#${name}`} />
  </svg>
);
