/** What came of keeping something, with the way back. */
import { useState } from 'react';
import type { KeptFile } from '../../core/api/api.ts';
import { service } from '../data.ts';
import { Wrong } from '../parts/Wrong.tsx';

/** What was kept last, with the way back. */
export function Done({ kept, onGone }: { kept: KeptFile; onGone(): void }) {
  const [wrong, setWrong] = useState<unknown>(null);
  const undo = (): void => void service.undoKeep(kept.file, kept.hash).then(onGone, setWrong);
  return (
    <div className="flex items-center gap-2 text-[11.5px]" role="status">
      {wrong !== null ? (
        <Wrong error={wrong} className="min-w-0 flex-1" />
      ) : (
        <>
          <span className="min-w-0 flex-1 truncate text-soft">
            Kept in {kept.file}:{kept.change.line}
          </span>
          <button type="button" className="text-accent underline" onClick={undo}>
            Undo
          </button>
        </>
      )}
      <button type="button" aria-label="Close this message" className="text-soft" onClick={onGone}>
        ×
      </button>
    </div>
  );
}
