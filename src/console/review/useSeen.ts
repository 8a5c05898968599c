/** Tells the service what somebody has looked at, so that others know. */
import { useEffect, useRef } from 'react';
import { service } from '../data.ts';
import type { Shot } from '../../core/review/entries.ts';
import { personNow } from './usePerson.ts';

/** Who only goes past something has not looked at it: milliseconds. */
const atLeast = 1000;

export function useSeen(shot: Shot | null): void {
  const told = useRef(new Set<string>());
  const pair = shot?.pair;
  useEffect(() => {
    if (pair === undefined || told.current.has(pair)) return;
    const timer = setTimeout(() => {
      told.current.add(pair);
      // Whether it was told changes nothing here.
      service.see([pair], personNow() ?? undefined).catch(() => {});
    }, atLeast);
    return () => clearTimeout(timer);
  }, [pair]);
}
