/** The host name under which pages see the stage: the same in every run, whatever port the service got. */
export const stageHost = 'looks.localhost';
