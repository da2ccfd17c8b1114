/** The inner size of an element in pixels, kept current. */
import { useCallback, useRef, useState, type RefCallback } from 'react';

export interface ElementSize {
  readonly width: number;
  readonly height: number;
}

export function useElementSize<E extends HTMLElement>(): [ElementSize, RefCallback<E>] {
  const [size, setSize] = useState<ElementSize>({ width: 0, height: 0 });
  const observer = useRef<ResizeObserver>(undefined);
  const measured = useCallback((element: E | null) => {
    observer.current?.disconnect();
    if (!element) return;
    observer.current = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      setSize({ width: Math.floor(width), height: Math.floor(height) });
    });
    observer.current.observe(element);
  }, []);
  return [size, measured];
}
