import { Button } from 'antd';
import { Component, type ReactNode } from 'react';

interface Props {
  children: ReactNode;
  /** Before it is drawn anew: forgets what could not be drawn. */
  again: () => Promise<void>;
}

/** Keeps the page alive when a view breaks: edits that wait are sent all the same. */
export class ErrorBoundary extends Component<Props, { error: Error | null }> {
  state = { error: null as Error | null };

  static getDerivedStateFromError = (error: Error) => ({ error });

  private readonly drawAnew = async () => {
    await this.props.again();
    this.setState({ error: null });
  };

  render() {
    const { error } = this.state;
    if (!error) return this.props.children;
    return (
      <main role="alert" style={{ maxWidth: 460, margin: '96px auto' }}>
        <h1>This view has stopped working.</h1>
        <p>Nothing is lost: what was made is stored, and edits that were waiting are still sent.</p>
        <p className="quiet">{error.message.slice(0, 200)}</p>
        <Button onClick={() => void this.drawAnew()}>Show it again</Button> <a href="/">To the shelf</a>
      </main>
    );
  }
}
