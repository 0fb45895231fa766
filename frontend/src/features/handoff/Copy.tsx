import { Button } from 'antd';
import { useState } from 'react';

interface Props {
  text: string;
  /** What is copied, where the page around does not say it. */
  name?: string;
  className?: string;
}

export function Copy({ text, name, className }: Props) {
  const [copied, setCopied] = useState(false);
  const copy = async () => {
    await navigator.clipboard.writeText(text);
    setCopied(true);
  };
  return (
    <Button
      size="small"
      {...(className && { className })}
      {...(name && { 'aria-label': `Copy the ${name}` })}
      onClick={() => void copy()}
    >
      {copied ? 'Copied' : 'Copy'}
    </Button>
  );
}
