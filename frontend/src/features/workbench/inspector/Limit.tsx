/** Why what is pulled on a plot goes no further, at the top of it. */
export const Limit = ({ says }: { says: string }) => (
  <text className="figure halo" role="status" style={{ fill: 'var(--coral-text)' }} x={4} y={-12}>
    {says}
  </text>
);
