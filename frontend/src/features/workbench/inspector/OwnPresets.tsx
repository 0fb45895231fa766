import { Flex } from 'antd';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Chip } from '../../../shared/ui/Chip';
import { api } from '../../../api/client';
import { sameValue } from '../../../shared/text/values';
import { attemptCommit, sayFault } from '../bench';
import type { Timing } from '../edits';
import { NameField } from '../Rename';
import { PlainButton } from '../../../shared/ui/PlainButton';

interface Props {
  timing: Timing;
  commit: (timing: Timing) => Promise<void>;
}

/** Timings that were given a name, for every piece of the collection. */
export function OwnPresets({ timing, commit }: Props) {
  const queries = useQueryClient();
  const { data } = useQuery({ queryKey: ['presets'], queryFn: api.presets });
  const [naming, setNaming] = useState(false);
  const refresh = () => queries.invalidateQueries({ queryKey: ['presets'] });
  const keep = async (name: string) => {
    await api.keepPreset({ name, timing });
    await refresh();
  };
  const known = data?.presets ?? [];
  const current = known.find((preset) => sameValue(preset.timing as never, timing as never));
  return (
    <Flex wrap gap={5} role="group" aria-label="Own presets">
      {known.map((preset) => (
        <Chip key={preset.name} pressed={preset === current} onClick={() => attemptCommit(commit(preset.timing))}>
          {preset.name}
        </Chip>
      ))}
      {naming ? (
        <NameField value="" label="Name of the preset" commit={keep} close={() => setNaming(false)} />
      ) : current ? (
        <PlainButton onClick={() => void api.dropPreset(current.name).then(refresh, sayFault)}>
          forget {current.name}
        </PlainButton>
      ) : (
        <PlainButton onClick={() => setNaming(true)}>keep as…</PlainButton>
      )}
    </Flex>
  );
}
