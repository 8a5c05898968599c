/** The host name under which pages see the stage: the same in every run, whatever port the service got. */
export const stageHost = 'looks.localhost';

/** The function of a page through which the documents of its frames are given its time. */
export const frameDoor = '__sguardoFrame';

/** Run in every new document before anything else: one in a frame of the same origin knocks at the door around it. */
export const knock = `try { if (parent !== self) parent.${frameDoor}?.(self); } catch {}`;

const workerName = 'sguardo worker ';

/** The name of a worker by which it is told what to run before its own script, and what its name is then. */
export const beginWorker = (code: string, name: string): string => workerName + JSON.stringify([code, name]);

/** Run in every new worker before anything else. */
export const workerKnock = `if (self.name.startsWith('${workerName}')) {
  const [code, name] = JSON.parse(self.name.slice(${workerName.length}));
  Object.defineProperty(self, 'name', { value: name, writable: true, configurable: true });
  (0, eval)(code);
}`;
