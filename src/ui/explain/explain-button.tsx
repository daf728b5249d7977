'use client';

import { Button, Dialog } from '../kit';
import { PressAccount } from './press-account';

/** Opens the account of one press. */
export const ExplainButton = ({ press, title }: { readonly press: string; readonly title: string }) => (
  <Dialog title={title} size="wide" trigger={<Button>Explain</Button>}>
    <PressAccount press={press} />
  </Dialog>
);
