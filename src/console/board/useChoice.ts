/** The tile or heading of the board that is chosen, and how keys lead from one to the next. */
import { useMemo, useRef, useState } from 'react';
import { type LookName, lookKey } from '../../core/look/look.ts';
import type { BoardLook } from '../../core/run/board.ts';
import type { GroupRow, Row } from './layout.ts';

export type Choice = {
  /** Its key; null when nothing is chosen. */
  key: string | null;
  look: BoardLook | null;
  group: GroupRow | null;
  choose(key: string): void;
  /** By rows: headings and rows of tiles. */
  moveRows(by: number): void;
  /** From tile to tile, wherever that is. */
  moveTiles(by: number): void;
  toEnd(which: 'first' | 'last'): void;
};

const keyOf = ({ component, look }: LookName): string => lookKey(component, look);

type Place = { row: number; column: number };

/** Where every tile and heading stands, and all tiles in their order. */
function placesOf(rows: readonly Row[]): { places: Map<string, Place>; tiles: string[] } {
  const places = new Map<string, Place>();
  const tiles: string[] = [];
  for (const [at, row] of rows.entries())
    if (row.kind !== 'tiles') places.set(row.key, { row: at, column: 0 });
    else
      for (const [column, look] of row.looks.entries()) {
        const key = keyOf(look);
        places.set(key, { row: at, column });
        tiles.push(key);
      }
  return { places, tiles };
}

/** `reveal` brings a row into view. */
export function useChoice(rows: readonly Row[], reveal: (row: number) => void): Choice {
  const [key, setKey] = useState<string | null>(null);
  const { places, tiles } = useMemo(() => placesOf(rows), [rows]);
  // Going through a heading or a short row one comes out in the column where one has been.
  const column = useRef(0);
  const place = key === null ? undefined : places.get(key);
  const row = place && rows[place.row];
  const choose = (next: string | undefined): void => {
    if (next === undefined) return;
    setKey(next);
    const to = places.get(next);
    if (to) reveal(to.row);
  };
  const toTile = (next: string | undefined): void => {
    if (next !== undefined) column.current = places.get(next)!.column;
    choose(next);
  };
  const first = (): void => toTile(tiles[0] ?? rows[0]?.key);
  return {
    key: place ? key : null,
    look: row?.kind === 'tiles' ? row.looks[place!.column]! : null,
    group: row && row.kind !== 'tiles' ? row : null,
    choose,
    moveRows(by) {
      if (!place) return first();
      const next = rows[Math.max(0, Math.min(rows.length - 1, place.row + by))]!;
      if (next.kind !== 'tiles') return choose(next.key);
      return choose(keyOf(next.looks[Math.min(column.current, next.looks.length - 1)]!));
    },
    moveTiles(by) {
      if (!place) return first();
      if (row!.kind === 'tiles') {
        const next = tiles.indexOf(key!) + by;
        return toTile(tiles[Math.max(0, Math.min(tiles.length - 1, next))]);
      }
      const isTiles = (one: Row): boolean => one.kind === 'tiles';
      const around = by > 0 ? rows.slice(place.row).find(isTiles) : rows.slice(0, place.row).findLast(isTiles);
      if (around?.kind === 'tiles') toTile(keyOf(around.looks.at(by > 0 ? 0 : -1)!));
    },
    toEnd: (which) => toTile(tiles.at(which === 'first' ? 0 : -1)),
  };
}
