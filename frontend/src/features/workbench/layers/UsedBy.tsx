import { useQuery } from '@tanstack/react-query';
import { Link } from 'wouter';
import { api } from '../../../api/client';
import { useBench } from '../bench';

/** The pieces that this one stands in: what is edited here is seen there. */
export function UsedBy() {
  const id = useBench((b) => b.id);
  const shelf = useQuery({ queryKey: ['shelf'], queryFn: api.shelf });
  const uses = (shelf.data?.uses ?? []).filter((use) => use.of === id);
  if (!uses.length) return null;
  return (
    <section className="used-by" aria-label="Used by">
      <h3>Used by</h3>
      {uses.map((use) => (
        <p key={use.id}>
          <Link href={`/pieces/${use.id}`}>{use.name}</Link> <span className="quiet num">× {use.count}</span>
        </p>
      ))}
    </section>
  );
}
