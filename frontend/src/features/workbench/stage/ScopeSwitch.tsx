import { memo } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { Choice } from '../../../shared/ui/Choice';
import { useBench } from '../bench';
import { choose } from '../choosing';
import { shownOf, traitsOf, type Scope } from '../edits';

const keyed = (text: string) => {
  const [id = '', ...name] = text.split(' ');
  return { id, name: name.join(' ') };
};

/** What edits reach. */
export const ScopeSwitch = memo(function ScopeSwitch() {
  const scope = useBench((b) => b.scope);
  const traits = useBench(useShallow((b) => traitsOf(b.document).map((trait) => `${trait.id} ${shownOf(trait).name}`)));
  return (
    <Choice<Scope>
      size="small"
      aria-label="What an edit changes"
      value={scope}
      onChange={(value) => choose({ scope: value })}
      options={[
        { value: 'state', label: 'Edits this state' },
        ...traits.map(keyed).map(({ id, name }) => ({ value: `option:${id}` as const, label: name })),
        { value: 'base', label: traits.length ? 'the base' : 'Edits the base' },
      ]}
    />
  );
});
