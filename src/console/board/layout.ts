/** The board's rows: headings of folders and components, and looks in rows of as many as fit. */
import { lookKey } from '../../core/look/look.ts';
import { type BoardLook, verdictsOf } from '../../core/run/board.ts';
import { type Tally, tally } from '../../core/run/verdict.ts';

/** A heading: of a component, or of a folder with everything below it. */
export type GroupRow = {
  kind: 'folder' | 'component';
  /** A folder's path ends with a slash. */
  key: string;
  name: string;
  /** A component's look file. */
  file: string | null;
  /** How many headings it stands below. */
  depth: number;
  tally: Tally;
  isFolded: boolean;
};

export type Row = GroupRow | { kind: 'tiles'; key: string; looks: BoardLook[] };

type Component = { key: string; file: string; looks: BoardLook[]; tally: Tally };

/** A folder of components, with what all that is below it stands at. */
export type Folder = { key: string; name: string; folders: Folder[]; components: Component[]; tally: Tally };

const emptyFolder = (key: string, name: string): Folder => ({
  key,
  name,
  folders: [],
  components: [],
  tally: tally([]),
});

function count(into: Tally, from: Tally): void {
  for (const verdict of Object.keys(from) as (keyof Tally)[]) into[verdict] += from[verdict];
}

/** Looks of one component that follow one another. */
function componentsOf(looks: readonly BoardLook[]): Component[] {
  const components: Component[] = [];
  for (const look of looks) {
    let last = components.at(-1);
    if (last?.key !== look.component) {
      last = { key: look.component, file: look.file, looks: [], tally: tally([]) };
      components.push(last);
    }
    last.looks.push(look);
    for (const verdict of verdictsOf([look])) last.tally[verdict]++;
  }
  return components;
}

/** A folder that holds nothing but another one is one with it. */
function merged(folder: Folder): Folder {
  const folders = folder.folders.map(merged);
  const [only] = folders;
  if (folder.components.length > 0 || folders.length !== 1) return { ...folder, folders };
  return { ...only!, name: folder.name ? `${folder.name}/${only!.name}` : only!.name };
}

/** The folders of looks that stand in the board's order; the outermost is the one that all of them are in. */
export function foldersOf(looks: readonly BoardLook[]): Folder {
  const root = emptyFolder('', '');
  for (const component of componentsOf(looks)) {
    count(root.tally, component.tally);
    let folder = root;
    for (const name of component.key.split('/').slice(0, -1)) {
      const key = `${folder.key}${name}/`;
      let next = folder.folders.at(-1);
      if (next?.key !== key) {
        next = emptyFolder(key, name);
        folder.folders.push(next);
      }
      count(next.tally, component.tally);
      folder = next;
    }
    folder.components.push(component);
  }
  return merged(root);
}

/** The rows of a folder's content; what is folded shows its heading only. */
export function rowsOf(folder: Folder, columns: number, folded: ReadonlySet<string>, depth = 0): Row[] {
  const rows: Row[] = [];
  for (const { key, file, looks, tally } of folder.components) {
    const isFolded = folded.has(key);
    const name = key.slice(key.lastIndexOf('/') + 1);
    rows.push({ kind: 'component', key, name, file, depth, tally, isFolded });
    for (let i = 0; i < looks.length && !isFolded; i += columns) {
      rows.push({ kind: 'tiles', key: lookKey(key, looks[i]!.look), looks: looks.slice(i, i + columns) });
    }
  }
  for (const inner of folder.folders) {
    const { key, name, tally } = inner;
    const isFolded = folded.has(key);
    rows.push({ kind: 'folder', key, name, file: null, depth, tally, isFolded });
    if (!isFolded) rows.push(...rowsOf(inner, columns, folded, depth + 1));
  }
  return rows;
}

/** The keys of everything that can be folded. */
export const groupKeys = ({ components, folders }: Folder): string[] => [
  ...components.map(({ key }) => key),
  ...folders.flatMap((folder) => [folder.key, ...groupKeys(folder)]),
];
