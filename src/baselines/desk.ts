/** Where decisions are carried out. */
import type { DecisionRequest } from '../core/api/api.ts';
import { fail } from '../core/problem/problem.ts';
import type { Store } from '../store/index.ts';
import type { Shelf } from './write.ts';

/** Makes a picture's file smaller. */
export type Pack = (png: Uint8Array) => Promise<Uint8Array>;

/** Where decisions are carried out: the records, the project, and its folder of baselines, if it has one. */
export type Desk = {
  store: Store;
  root: string;
  folder: string | null;
  /** The group of machines that this one belongs to; null where there is only one. */
  family: string | null;
  pack: Pack;
  /** Approving needs a reason as well. */
  asksWhy: boolean;
  /** Hears how many pictures are packed. */
  tell(done: number, all: number): void;
};

/** Where the baselines of a desk are kept as files; null where they are not. */
export const shelfOf = ({ root, folder, family }: Desk): Shelf | null =>
  folder === null ? null : { root, folder, family };

/** @throws ProblemError `reason-missing` */
export function refuseUnreasoned({ asksWhy }: Desk, { kind, why }: DecisionRequest): void {
  if ((kind === 'reject' || asksWhy) && !why?.trim())
    fail('reason-missing', { what: kind === 'reject' ? 'Rejecting' : 'Approving' });
}
