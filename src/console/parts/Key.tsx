/** The key that does what a button or a link does, to be seen: `aria-keyshortcuts` tells it to whoever listens. */
export const Key = ({ children, className = '' }: { children: string; className?: string }) => (
  <span aria-hidden="true" className="contents">
    <kbd className={className}>{children}</kbd>
  </span>
);
