/** What changes in a file, line by line. */
import type { Change } from '../../core/api/api.ts';

/** Lines that go and lines that come, each with its sign. */
export const ChangedLines = ({ change: { line, removed, added } }: { change: Change }) => (
  <pre className="overflow-auto rounded-md border border-rule bg-well p-2 font-mono text-[11.5px]">
    {removed.map((text, index) => (
      <div key={`- ${String(index)}`} className="text-failed">
        {String(line + index).padStart(4)} − {text}
      </div>
    ))}
    {added.map((text, index) => (
      <div key={`+ ${String(index)}`} className="text-passed">
        {String(line + index).padStart(4)} + {text}
      </div>
    ))}
  </pre>
);
