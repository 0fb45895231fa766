import { useQuery } from '@tanstack/react-query';
import { Flex, Popover } from 'antd';
import { useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { api } from '../../../api/client';
import { Chip } from '../../../shared/ui/Chip';
import { useBench } from '../bench';
import { ParameterField } from '../inspector/ParameterField';
import { TrialResult } from '../inspector/TrialResult';
import { tryOut, useTrial } from '../trial';

/** Opens what copies of this piece may set, to be tried here. */
export function TryValues() {
  const hasAny = useBench((b) => !!b.document.parameters?.length);
  if (!hasAny) return null;
  return (
    <Popover trigger="click" placement="leftTop" destroyOnHidden content={<Fields />}>
      <Chip
        style={{ position: 'absolute', top: 46, right: 12, height: 28 }}
        title="Try the values that copies of this piece may set"
      >
        try values…
      </Chip>
    </Popover>
  );
}

type Values = Record<string, string | number>;

function Fields() {
  const { id, revision } = useBench(useShallow(({ id, revision }) => ({ id, revision })));
  const { data } = useQuery({ queryKey: ['parameters', id, revision], queryFn: () => api.parameters(id) });
  const edit = useTrial((t) => t.trial?.edit.label);
  const [asked, setAsked] = useState<{ values: Values; label: string } | null>(null);
  // What was tried last, as long as it is being tried.
  const tried = asked && asked.label === edit ? asked.values : {};
  const ask = async (values: Values) => {
    const found = await api.tryValues(id, values);
    await tryOut(found);
    setAsked({ values, label: found.label });
  };
  return (
    <Flex
      vertical
      gap={8}
      className="try-values"
      style={{ width: 232 }}
      role="group"
      aria-label="Values that are tried"
    >
      <p className="quiet" style={{ margin: 0 }}>
        What copies may set. Nothing changes until you apply it.
      </p>
      {data?.parameters.map((parameter) => (
        <ParameterField
          key={parameter.id}
          had={{ parameter, value: tried[parameter.id] ?? parameter.value }}
          commit={(value) => ask({ ...tried, [parameter.id]: value })}
        />
      ))}
      {Object.keys(tried).length > 0 && <TrialResult />}
    </Flex>
  );
}
