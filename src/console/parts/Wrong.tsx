/** Why something that was asked for could not be done, and the way out, in a line beside what was asked. */
import { toProblem } from '../../core/problem/problem.ts';

export function Wrong({ error, className = '' }: { error: unknown; className?: string }) {
  const { message, remedy } = toProblem(error);
  return (
    <p className={`text-failed ${className}`} role="alert">
      ✗ {message} {remedy}
    </p>
  );
}
