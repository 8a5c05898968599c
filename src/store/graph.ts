/** What the bundler knows of the project, kept from one service to the next. Many look files share most files. */
import type { Graph } from '../core/run/graph.ts';
import type { Db } from './database.ts';

export type GraphRecord = { read(): Graph | null; write(graph: Graph): void };

type Packed = Omit<Graph, 'closures'> & { files: string[]; closures: Record<string, number[]> };

function pack({ closures, ...rest }: Graph): Packed {
  const numbers = new Map<string, number>();
  const numberOf = (file: string): number => {
    if (!numbers.has(file)) numbers.set(file, numbers.size);
    return numbers.get(file)!;
  };
  const packed = Object.entries(closures).map(([file, files]) => [file, files.map(numberOf)] as const);
  return { ...rest, files: [...numbers.keys()], closures: Object.fromEntries(packed) };
}

const unpack = ({ closures, files, ...rest }: Packed): Graph => ({
  ...rest,
  closures: Object.fromEntries(Object.entries(closures).map(([file, at]) => [file, at.map((i) => files[i]!)])),
});

export function graphOf(db: Db): GraphRecord {
  const select = db.prepare<[], { graph: string }>('SELECT graph FROM graph');
  const put = db.prepare('INSERT OR REPLACE INTO graph (one, graph) VALUES (1, ?)');
  return {
    read() {
      const row = select.get();
      const packed = row && (JSON.parse(row.graph) as Packed);
      // An earlier version knew nothing of style sheets.
      return packed?.styles ? unpack(packed) : null;
    },
    write: (graph) => void put.run(JSON.stringify(pack(graph))),
  };
}
