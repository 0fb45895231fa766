import { Button } from 'antd';
import { useEffect, useRef } from 'react';
import './help.css';
import { GESTURES, keyText, SHORTCUTS } from './shortcuts';
import { look, useView } from './view';
import { known } from '../../shared/known';

/** Every key and gesture of the bench. None of them is needed. */
export function Help() {
  const open = useView((v) => v.help);
  const sheet = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    if (open) known(sheet.current).showModal();
    else known(sheet.current).close();
  }, [open]);
  return (
    // Beside it a click closes it; Escape does so by itself.
    // eslint-disable-next-line jsx-a11y-x/no-noninteractive-element-interactions, jsx-a11y-x/click-events-have-key-events
    <dialog
      ref={sheet}
      className="help"
      aria-label="Keys and gestures"
      onClose={() => look({ help: false })}
      onClick={(event) => event.target === event.currentTarget && look({ help: false })}
    >
      <header>
        <h2>Keys and gestures</h2>
        <Button onClick={() => look({ help: false })}>Close</Button>
      </header>
      <div className="help-columns">
        {Object.entries(SHORTCUTS).map(([title, shortcuts]) => (
          <section key={title}>
            <h3>{title}</h3>
            <dl>
              {shortcuts
                .filter(({ does }) => does)
                .map(({ keys, does }) => (
                  <div key={keys}>
                    <dt>
                      <kbd>{keyText(keys)}</kbd>
                    </dt>
                    <dd>{does}</dd>
                  </div>
                ))}
            </dl>
          </section>
        ))}
        <section className="gestures">
          <h3>With the pointer, and in fields</h3>
          <dl>
            {GESTURES.map(([gesture, does]) => (
              <div key={gesture}>
                <dt>{gesture}</dt>
                <dd>{does}</dd>
              </div>
            ))}
          </dl>
        </section>
      </div>
    </dialog>
  );
}
