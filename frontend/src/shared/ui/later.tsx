import { lazy, Suspense, type ComponentType, type ReactNode } from 'react';

/** A part that is loaded once the rest stands: at once would make the page slow to come, and when it is wanted would be
 * too late while the server is away. */
export function later<Props extends object>(
  load: () => Promise<ComponentType<Props>>,
  meanwhile: ReactNode = null,
): ComponentType<Props> {
  const Part = lazy(async () => ({ default: await load() }));
  if (typeof window !== 'undefined') window.setTimeout(() => load().catch(() => undefined), SOON_MS);
  return (props: Props) => (
    <Suspense fallback={meanwhile}>
      <Part {...props} />
    </Suspense>
  );
}

const SOON_MS = 1500;
