'use client';
import { type ReactNode, useEffect, useRef, useState } from 'react';

/** Gives its content the largest box of a picture's shape that fits the room there is. */
export function Fitted({
  width,
  height,
  children,
  className = '',
}: {
  width: number;
  height: number;
  children: ReactNode;
  className?: string;
}) {
  const room = useRef<HTMLDivElement>(null);
  const [box, setBox] = useState<{ width: number; height: number } | null>(null);
  useEffect(() => {
    const element = room.current;
    if (!element) return;
    const measure = () => {
      const scale = Math.min(element.clientWidth / width, element.clientHeight / height);
      setBox({ width: Math.floor(width * scale), height: Math.floor(height * scale) });
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, [width, height]);
  return (
    <div ref={room} className={`relative flex min-h-0 min-w-0 items-center justify-center ${className}`}>
      {box && (
        <div className="relative" style={box}>
          {children}
        </div>
      )}
    </div>
  );
}
