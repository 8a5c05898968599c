/** How much room there is. */
import { type RefObject, useEffect, useRef, useState } from 'react';

/** An element to put somewhere, and its size there in CSS pixels. */
export function useRoom(): { area: RefObject<HTMLDivElement | null>; size: [width: number, height: number] } {
  const area = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState<[number, number]>([800, 400]);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setSize([entry!.contentRect.width, entry!.contentRect.height]));
    observer.observe(area.current!);
    return () => observer.disconnect();
  }, []);
  return { area, size };
}
