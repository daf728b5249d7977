'use client';

import dynamic from 'next/dynamic';

const ReplayScreen = dynamic(() => import('./replay-screen'), { ssr: false });

/** The replay begins with times of this browser's clock, so it is only drawn there. */
export const ReplayPage = () => <ReplayScreen />;
