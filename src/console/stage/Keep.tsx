/** Keeping what is on the stage: its props, in its look or as a new one. */
import { useState } from 'react';
import type { KeptFile } from '../../core/api/api.ts';
import { service } from '../data.ts';
import { Done } from '../keep/Done.tsx';
import { KeepDialog } from '../keep/KeepDialog.tsx';
import { Button } from '../parts/Button.tsx';
import type { Stage } from './useStage.ts';

/** The button that keeps what is changed, and what came of it. */
export function Keep({ stage, look }: { stage: Stage; look: string }) {
  const { file, over } = stage;
  const [isOpen, setOpen] = useState(false);
  const [kept, setKept] = useState<KeptFile | null>(null);
  const done = (inFile: KeptFile, name: string): void => {
    setOpen(false);
    setKept(inFile);
    // The file has them now.
    if (name === look) stage.restoreAll();
    else stage.setLook(name);
  };
  return (
    <>
      {Object.keys(over).length > 0 && (
        <Button tone="strong" onClick={() => setOpen(true)}>
          Keep…
        </Button>
      )}
      {kept && <Done kept={kept} onGone={() => setKept(null)} />}
      <KeepDialog
        title="Keep these props"
        isOpen={isOpen}
        file={file}
        look={look}
        what={JSON.stringify(over)}
        into={['look', 'new']}
        ask={(as, seen, write) => service.keep({ file, look, as, props: over, seen, write })}
        onKept={done}
        onClose={() => setOpen(false)}
      />
    </>
  );
}
