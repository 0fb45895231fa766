import { Flex } from 'antd';
import { useEffect, type CSSProperties, type ReactNode } from 'react';
import { Link, useParams } from 'wouter';
import { showFonts } from '../player';
import { load, useBench } from './bench';
import { isOpen } from './served';
import { Notices } from './Notices';
import { Spoken } from './Spoken';
import { TopBar } from './TopBar';
import { useFollowing } from './useFollowing';
import { useKeys } from './useKeys';
import { later } from '../../shared/ui/later';
import { useView } from './view';
import { useWatch } from './watch/watch';

interface Props {
  view: () => ReactNode;
  /** Which keys it has: elsewhere no key may change what is out of sight. */
  keys?: readonly string[];
}

const Help = later(async () => (await import('./Help')).Help);

const ANYWHERE = ['Everywhere', 'Loop', 'Watch'];

/** What every view of a piece has around it; the view itself is drawn once the piece is there. */
export function BenchFrame({ view, keys = ANYWHERE }: Props) {
  const { id = '' } = useParams<{ id: string }>();
  useEffect(() => void load(id), [id]);
  useFollowing(id);
  useKeys(keys);
  const fonts = useBench((b) => b.fonts);
  useEffect(() => showFonts(fonts), [fonts]);
  const ground = useWatch((w) => w.ground);
  const help = useView((v) => v.help);
  const ready = useBench((b) => isOpen(b) && b.id === id);
  const fault = useBench((b) => b.fault);
  if (!ready) {
    return (
      <Flex component="main" className="bench" align="center" justify="center">
        {fault ? (
          <p role="alert">
            {fault.message} {fault.remedy} <Link href="/">To the shelf</Link>
          </p>
        ) : (
          'Opening…'
        )}
      </Flex>
    );
  }
  const View = view;
  return (
    <div className="bench" style={{ '--stage-ground': ground } as CSSProperties}>
      <TopBar />
      <Notices />
      <Spoken />
      {help && <Help />}
      <View />
    </div>
  );
}
