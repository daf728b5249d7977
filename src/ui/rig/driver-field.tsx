'use client';

import { useState } from 'react';
import type { DriverDocument } from '../../core/driver';
import { searchDrivers } from '../../core/show';

interface Props {
  readonly drivers: readonly DriverDocument[];
  readonly value: string;
  readonly onChoose: (id: string) => void;
}

/** The driver, found by any word: what it is, what it does, how it is spoken to. */
export function DriverField({ drivers, value, onChoose }: Props) {
  const [typed, setTyped] = useState('');
  const found = typed.trim() === '' ? drivers : searchDrivers(drivers, typed);
  const chosen = drivers.find(({ id }) => id === value);
  const offered = chosen && !found.includes(chosen) ? [chosen, ...found] : found;
  const roles = [...new Set(offered.map(({ role }) => role))].sort();
  return (
    <>
      <label>
        Search the drivers
        <input
          type="search"
          value={typed}
          placeholder="role, protocol or function"
          onChange={(e) => setTyped(e.target.value)}
          onKeyDown={(e) => {
            if (e.key !== 'Enter') return;
            e.preventDefault();
            const [first] = found;
            if (first) onChoose(first.id);
          }}
        />
      </label>
      <label>
        Driver
        <select value={value} required onChange={(e) => onChoose(e.target.value)}>
          <option value="" disabled>
            {typed.trim() === '' ? 'choose' : found.length === 1 ? '1 fits' : `${found.length} fit`}
          </option>
          {roles.map((role) => (
            <optgroup key={role} label={role}>
              {offered
                .filter((each) => each.role === role)
                .map((each) => (
                  <option key={each.id} value={each.id}>
                    {each.title}
                  </option>
                ))}
            </optgroup>
          ))}
        </select>
      </label>
    </>
  );
}
