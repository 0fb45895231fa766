import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../../api/client';
import type { HandoffReport } from '../../api/contract';
import { known } from '../../shared/known';
import { PlainButton } from '../../shared/ui/PlainButton';
import { BenchFrame, useBench } from '../workbench';
import { AllFormats } from './AllFormats';
import { AS_IT_IS, GROUPS, asked, type Chosen, type Offered } from './formats';
import { Preview } from './Preview';
import { Told } from './Told';
import { useJob } from './useJob';
import './handoff.css';

export const HandoffPage = () => <BenchFrame view={Handoff} />;

const FIRST = known(GROUPS[0]?.formats[0]);

/** The piece as files for others: what each holds and what not is said before it is made, and shown as it will be. */
function Handoff() {
  const id = useBench((b) => b.id);
  const version = useBench((b) => `${b.revision} ${b.holds}`);
  const [format, setFormat] = useState<Offered>(FIRST);
  const [chosen, setChosen] = useState<Chosen>(AS_IT_IS);
  const all = useQuery({ queryKey: ['handoffs', id, version], queryFn: () => api.handoffs(id) });
  const options = asked(format, chosen);
  const own = useQuery({
    queryKey: ['handoff', id, version, format.name, options],
    queryFn: () => api.handoff(id, format.name, options),
    enabled: Object.keys(options).length > 0,
  });
  const usual = all.data?.formats.find(({ name }) => name === format.name) ?? null;
  // Of other options nothing is said before it is known.
  const report = Object.keys(options).length ? (own.data ?? null) : usual;
  return (
    <main className="handoff">
      <nav aria-label="Formats">
        {GROUPS.map((group) => (
          <Group key={group.title} {...group} reports={all.data?.formats ?? []} chosen={format} choose={setFormat} />
        ))}
        <AllFormats id={id} version={version} />
      </nav>
      <Made
        key={format.name}
        id={id}
        version={version}
        format={format}
        report={report}
        fault={own.error ?? all.error}
        chosen={chosen}
        setChosen={setChosen}
        options={options}
      />
    </main>
  );
}

type MadeProps = Omit<Parameters<typeof Preview>[0], 'work'> & Omit<Parameters<typeof Told>[0], 'work'>;

/** One format: its files are made as soon as it is known that they can be. */
function Made(props: MadeProps) {
  const { id, version, format, report, options } = props;
  const work = useJob(
    ['files', id, version, format.name, options],
    (more) => api.beginFiles(id, format.name, { ...options, ...more }),
    report !== null && !report.refused.length,
  );
  return (
    <>
      <Preview {...props} work={work} />
      <Told {...props} work={work} />
    </>
  );
}

interface GroupProps {
  title: string;
  formats: readonly Offered[];
  reports: readonly HandoffReport[];
  chosen: Offered;
  choose: (format: Offered) => void;
}

function Group({ title, formats, reports, chosen, choose }: GroupProps) {
  const isRefused = (name: string) => reports.some((report) => report.name === name && report.refused.length > 0);
  return (
    <section>
      <h2>{title}</h2>
      {formats.map((format) => (
        <PlainButton
          key={format.name}
          className="format"
          aria-current={format === chosen ? 'true' : undefined}
          onClick={() => choose(format)}
        >
          {format.title}
          <span className="quiet">{isRefused(format.name) ? 'not yet' : ''}</span>
        </PlainButton>
      ))}
    </section>
  );
}
