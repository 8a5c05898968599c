/** The stage as the console has it: all that a link has to say is in the address, the rest is what stages tell. */
import { useMemo } from 'react';
import { useAddress } from '../useAddress.ts';
import { propsIn } from '../../core/wire/live.ts';
import { type Frames, type Said, useSaid } from './useSaid.ts';

export type Stage = Said & {
  file: string;
  /** Names of the environments that are side by side. */
  environments: string[];
  /** How large it is shown; null when it is made to fit. */
  zoom: number | null;
  /** Props over those of the look, by name. */
  over: Record<string, unknown>;
  /** What is done in one environment is done in the others. */
  isTogether: boolean;
  /** True while nothing has come from the stage. */
  isWaiting: boolean;
  setLook(look: string): void;
  setEnvironments(names: string[]): void;
  setZoom(zoom: number | null): void;
  setTogether(isTogether: boolean): void;
  setPointing(isPointing: boolean): void;
  forgetPointed(): void;
  /** Puts a value over a prop, or with undefined takes it away again. */
  put(prop: string, value: unknown): void;
  restoreAll(): void;
  reset(): void;
  frameRef: Frames['frameRef'];
};

/** `origin` is that of stages; `usual` is the environment when the address names none. */
export function useStage(origin: string, usual: string): Stage {
  const [query, set] = useAddress();
  const file = query.get('file') ?? '';
  const key = `${file}\n${query.get('look')}`;
  const environments = useMemo(() => (query.get('env') ?? usual).split(',').filter(Boolean), [query, usual]);
  const over = useMemo(() => propsIn(query.get('props')), [query]);
  const isTogether = query.get('together') === 'yes';
  const { said, send, forget, frameRef } = useSaid({ origin, key, first: environments[0] ?? '', isTogether });
  const putAll = (props: Record<string, unknown>): void => {
    send({ to: 'sguardo-stage', kind: 'props', props });
    set({ props: Object.keys(props).length === 0 ? null : JSON.stringify(props) });
  };
  return {
    ...said,
    file,
    environments,
    zoom: Number(query.get('zoom')) || null,
    over,
    isTogether,
    isWaiting: said.shown === null && said.troubles.length === 0,
    setLook: (name) => set({ look: name, props: null }),
    setEnvironments: (names) => set({ env: names.join(',') }),
    setZoom: (zoom) => set({ zoom: zoom === null ? null : String(zoom) }),
    setTogether: (next) => set({ together: next ? 'yes' : null }),
    // It is on when the stage says so.
    setPointing: (isOn) => send({ to: 'sguardo-stage', kind: 'point', isOn }),
    forgetPointed: () => forget({ pointed: null }),
    put(prop, value) {
      const { [prop]: _, ...rest } = over;
      putAll(value === undefined ? rest : { ...rest, [prop]: value });
    },
    restoreAll: () => putAll({}),
    reset() {
      forget();
      send({ to: 'sguardo-stage', kind: 'reset' });
    },
    frameRef,
  };
}
