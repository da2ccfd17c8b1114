/** The width of an element in pixels, kept current. */
import { useCallback, useRef, useState, type RefCallback } from 'react';

export function useElementWidth<E extends HTMLElement>(): [number, RefCallback<E>] {
  const [width, setWidth] = useState(0);
  const observer = useRef<ResizeObserver>(undefined);
  const measured = useCallback((element: E | null) => {
    observer.current?.disconnect();
    if (!element) return;
    observer.current = new ResizeObserver(([entry]) => setWidth(Math.floor(entry!.contentRect.width)));
    observer.current.observe(element);
  }, []);
  return [width, measured];
}
