import { Modal } from 'antd';
import { GESTURES, keyText, SHORTCUTS } from './shortcuts';
import { look } from './view';

/** Every key and gesture of the bench. None of them is needed. */
export function Help() {
  return (
    <Modal
      open
      // In the page itself: over the body, it would lock its scrolling by a style that the server's rules refuse.
      getContainer="#root"
      onCancel={() => look({ help: false })}
      footer={null}
      width={1120}
      title="Keys and gestures"
      className="help"
      styles={{ body: { columns: 3, columnGap: 26, fontSize: 12.5 } }}
    >
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
    </Modal>
  );
}
