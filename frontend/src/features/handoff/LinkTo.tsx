import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Button, Flex } from 'antd';
import { api } from '../../api/client';
import { useBench } from '../workbench';
import { Copy } from './Copy';

/** The piece for whoever knows an address, as it is at any time. */
export function LinkTo({ id }: { id: string }) {
  const piece = useBench((b) => b.document);
  const client = useQueryClient();
  const key = ['link', id];
  const { data, error } = useQuery({ queryKey: key, queryFn: () => api.link(id) });
  const change = useMutation({
    mutationFn: () => (data?.token ? api.takeLinkBack(id) : api.makeLink(id)),
    onSuccess: (link) => client.setQueryData(key, link),
  });
  const fault = error ?? change.error;
  const address = data?.token && `${location.origin}/p/${data.token}`;
  return (
    <Flex component="section" vertical gap={8} align="start" className="link-to" aria-label="Link">
      <h2>Link</h2>
      <p className="quiet">
        {address
          ? 'Whoever has this address sees the piece as it is at any time, and can change nothing. Other pages may frame it.'
          : 'Shows the piece, as it is at any time, to whoever has its address; it can be taken back.'}
      </p>
      {address && (
        <>
          <Line name="address" text={address} />
          <Line name="frame" text={frameOf(address, piece)} />
        </>
      )}
      {fault && <p role="alert">{fault.message}</p>}
      <Button loading={change.isPending} disabled={!data} onClick={() => change.mutate()}>
        {address ? 'Take the link back' : 'Make a link'}
      </Button>
    </Flex>
  );
}

const frameOf = (address: string, { name, width, height }: { name: string; width: number; height: number }) =>
  `<iframe src="${address}" title="${inAttribute(name)}" width="${width}" height="${height}" style="border: 0"></iframe>`;

const inAttribute = (text: string) => text.replaceAll('&', '&amp;').replaceAll('"', '&quot;').replaceAll('<', '&lt;');

const Line = ({ name, text }: { name: string; text: string }) => (
  <Flex gap={6} align="center" className="line-to-copy">
    <code title={text}>{text}</code>
    <Copy name={name} text={text} />
  </Flex>
);
