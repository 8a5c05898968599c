/** The address of the stage of a look, in the console. */
export const stagePath = (file: string, look: string, environment: string): string =>
  `/stage?${new URLSearchParams({ file, look, env: environment })}`;
