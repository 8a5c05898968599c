/** Who decides in this browser: whoever has said so, or the person whom the service takes everybody for. */
import { useState } from 'react';

const key = 'sguardo who';

/** The name that was given in this browser; null where none was. */
export const personNow = (): string | null => localStorage.getItem(key);

/** The name, and how to change it; an empty one takes back what was said. */
export function usePerson(): [name: string | null, setName: (name: string) => void] {
  const [name, setName] = useState(personNow);
  return [
    name,
    (given) => {
      const wanted = given.trim().slice(0, 200);
      if (wanted === '') localStorage.removeItem(key);
      else localStorage.setItem(key, wanted);
      setName(personNow());
    },
  ];
}
