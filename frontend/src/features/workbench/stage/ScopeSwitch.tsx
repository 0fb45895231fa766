import { memo } from 'react';
import { Choice } from '../../../shared/ui/Choice';
import { useBench } from '../bench';
import { choose } from '../choosing';
import type { Scope } from '../edits';

/** What edits reach. */
export const ScopeSwitch = memo(function ScopeSwitch() {
  const scope = useBench((b) => b.scope);
  return (
    <Choice<Scope>
      size="small"
      aria-label="What an edit changes"
      value={scope}
      onChange={(value) => choose({ scope: value })}
      options={[
        { value: 'state', label: 'Edits this state' },
        { value: 'base', label: 'Edits the base' },
      ]}
    />
  );
});
