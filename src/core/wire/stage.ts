/** The host name under which pages see the stage: the same in every run, whatever port the service got. */
export const stageHost = 'looks.localhost';

/** The function of a page through which the documents of its frames are given its time. */
export const frameDoor = '__sguardoFrame';

/** Run in every new document before anything else: one in a frame of the same origin knocks at the door around it. */
export const knock = `try { if (parent !== self) parent.${frameDoor}?.(self); } catch {}`;
