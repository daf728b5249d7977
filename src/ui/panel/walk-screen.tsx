'use client';

import { useEffect, useState } from 'react';
import { useConnection, useLive, useWalkRound } from '../live';
import { WalkQuestions } from '../proofs';
import { screenTitle } from './panel-memory';
import { useWakeLock } from './use-wake-lock';

const sentence = 'flex min-h-dvh items-center justify-center px-6 text-center text-[20px]';

/** The questions of the line check on a phone that has joined for them and has no other rights. */
export default function WalkScreen() {
  const live = useLive();
  const view = useWalkRound();
  const connection = useConnection();
  const [isAsking, setAsking] = useState(false);
  useWakeLock();
  useEffect(() => live.here({ title: screenTitle() }), [live]);
  if (connection.at !== 'open') return <p className={sentence}>Cut off from the engine. Trying again …</p>;
  if (!view) return <p className={sentence}>Fetching the questions …</p>;
  return (
    <main>
      <WalkQuestions
        questions={view.questions}
        isAsking={isAsking}
        onAnswer={async (answer) => {
          setAsking(true);
          const isTaken = live.answerCheck(answer);
          setAsking(false);
          return Promise.resolve(isTaken);
        }}
      />
    </main>
  );
}
