import { Flex } from 'antd';
import { useState } from 'react';
import type { Option, Trait } from '../../../api/contract';
import { Choice } from '../../../shared/ui/Choice';
import { PlainButton } from '../../../shared/ui/PlainButton';
import { attempt, make, useBench } from '../bench';
import { choose } from '../choosing';
import * as edits from '../edits';
import { NameField, Rename } from '../Rename';

/** The kinds in which the piece comes, and which of each it shows: what is shown is what edits of that kind reach. */
export function Traits() {
  const traits = useBench((b) => b.document.traits);
  if (!traits?.length) return null;
  return (
    <Flex wrap gap={4} className="traits" aria-label="Traits" role="group">
      {traits.map((trait) => (
        <OneTrait key={trait.id} trait={trait} />
      ))}
    </Flex>
  );
}

function OneTrait({ trait }: { trait: Trait }) {
  const [renaming, setRenaming] = useState(false);
  const piece = useBench((b) => b.document);
  const shown = edits.shownOf(trait);
  const show = (option: Option) => {
    choose({ scope: `option:${trait.id}` });
    void attempt(edits.showOption(piece, trait, option));
  };
  return (
    <Flex align="center" gap={6}>
      <Rename
        value={trait.name}
        label="Name of the trait"
        commit={(name) => make(edits.renameTrait(piece, trait, name))}
      />
      {renaming ? (
        <NameField
          value={shown.name}
          label="Name of the option"
          commit={(name) => make(edits.renameOption(piece, trait, shown, name))}
          close={() => setRenaming(false)}
        />
      ) : (
        <Choice
          size="small"
          aria-label={`Option of ${trait.name}`}
          value={shown.id}
          options={trait.options.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(id) => show(trait.options.find((option) => option.id === id) ?? shown)}
        />
      )}
      <PlainButton title="One more option, shown at once" onClick={() => void attempt(edits.addOption(piece, trait))}>
        + option
      </PlainButton>
      <PlainButton onClick={() => setRenaming(true)}>rename option</PlainButton>
      <PlainButton
        title={trait.options.length > 1 ? `Deletes ${shown.name}` : `Deletes the trait ${trait.name}`}
        onClick={() =>
          void attempt(
            trait.options.length > 1 ? edits.removeOption(piece, trait, shown) : edits.removeTrait(piece, trait),
          )
        }
      >
        {trait.options.length > 1 ? 'delete option' : 'delete trait'}
      </PlainButton>
    </Flex>
  );
}
