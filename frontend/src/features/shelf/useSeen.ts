import { useEffect, useRef, useState } from 'react';

/** How far outside of what is seen something is already asked for. */
const AHEAD = '200px';

/** Whether an element has come into view, or near it; it stays so. */
export function useSeen() {
  const element = useRef<HTMLDivElement>(null);
  const [isSeen, setSeen] = useState(false);
  useEffect(() => {
    if (isSeen || !element.current) return;
    const observer = new IntersectionObserver((entries) => entries.some((e) => e.isIntersecting) && setSeen(true), {
      rootMargin: AHEAD,
    });
    observer.observe(element.current);
    return () => observer.disconnect();
  }, [isSeen]);
  return [element, isSeen] as const;
}
