import type { ReactNode } from 'react';
import { Button, type ButtonProps } from './button';
import { Tooltip } from './tooltip';

type Props = Omit<ButtonProps, 'aria-label' | 'title' | 'kind'> & {
  readonly label: string;
  readonly children: ReactNode;
};

/** A button that shows an icon only: its label is read out, and shown while it is pointed at. */
export const IconButton = ({ label, ...rest }: Props) => (
  <Tooltip text={label}>
    <Button {...rest} kind="icon" aria-label={label} />
  </Tooltip>
);
