'use client';

import { useMemo } from 'react';
import { Button } from '../kit';
import { useWalkRound } from '../live';
import { WalkQuestions, type LineCheckDesk } from '../proofs';

interface Props {
  readonly check: LineCheckDesk;
  readonly onClose: () => void;
}

const nothing = {};

/** The questions of the line check, one at a time, at the desk or on a phone that is one. */
export function WalkRound({ check, onClose }: Props) {
  const questions = useWalkRound()?.questions ?? nothing;
  const leave = useMemo(() => <Button onClick={onClose}>Back to the line check</Button>, [onClose]);
  return <WalkQuestions questions={questions} leave={leave} onAnswer={check.answer} isAsking={check.isAsking} />;
}
