/** Something that a person should know although it changed no verdict. */
export function NoteCard({ note }: { note: string }) {
  return (
    <p className="rounded-md border border-changed/50 bg-changed/7 px-3 py-1.5">
      <span className="text-changed">Note: </span>
      {note}
    </p>
  );
}
