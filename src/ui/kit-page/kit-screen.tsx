'use client';

import { Notices } from '../kit';
import { Actions } from './actions';
import { Fields } from './fields';
import { Layout } from './layout';
import { Marks } from './marks';

/** All parts that screens are made of, each in its states. */
export const KitScreen = () => (
  <main className="grid gap-10 p-6">
    <h1 className="text-[22px] font-bold">Kit</h1>
    <Actions />
    <Fields />
    <Layout />
    <Marks />
    <Notices />
  </main>
);
