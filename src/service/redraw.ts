/** Draws approved moments with the browser of a run: what another browser has taken is compared with that. */
import { baselineMaterial } from '../baselines/material.ts';
import type { CaptureKey } from '../core/baseline/baseline.ts';
import type { Environment } from '../core/settings/environment.ts';
import type { Store } from '../store/index.ts';
import { type Crew, drawingWindow, type Redrawn } from '../work/index.ts';
import { oneByOne } from './turns.ts';

export type Redrawer = {
  /** Draws the approved moment of a capture; null where that was not kept, or cannot be drawn. */
  draw(folder: string | null, environment: Environment, key: CaptureKey): Promise<Redrawn | null>;
  close(): Promise<void>;
};

type RedrawTools = {
  root: string;
  store: Store;
  crew: Crew;
  /** Origin of the drawing page. */
  stage(): string;
  log(error: unknown): void;
};

export function redrawerOf({ root, store, crew, stage, log }: RedrawTools): Redrawer {
  const drawing = drawingWindow(crew, stage);
  const inTurn = oneByOne();
  return {
    draw: (folder, environment, key) =>
      inTurn(async () => {
        const scene = baselineMaterial(store, root, folder, key);
        if (!scene) return null;
        try {
          const [drawn] = await drawing.in(environment).draw([{ scene, wanted: [] }]);
          return drawn ? { png: drawn.png, hash: drawn.hash } : null;
        } catch (error) {
          // What cannot be drawn is compared by its pixels.
          log(error);
          return null;
        }
      }),
    close: () => drawing.close(),
  };
}
