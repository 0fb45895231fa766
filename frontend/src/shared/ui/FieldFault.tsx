import './field.css';

function bringIntoView(shown: HTMLElement | null): void {
  if (!shown) return;
  let around = shown.parentElement;
  while (around && getComputedStyle(around).overflowX === 'visible') around = around.parentElement;
  // At the right of a panel it goes to the left: the panel is not to scroll sideways for it.
  const room = around ? around.getBoundingClientRect().left + around.clientLeft + around.clientWidth : innerWidth;
  if (shown.getBoundingClientRect().right > room) Object.assign(shown.style, { left: 'auto', right: '-1px' });
  shown.scrollIntoView({ block: 'nearest', inline: 'nearest' });
}

/** What is wrong with a field, below it; what scrolls makes room for it. */
export const FieldFault = ({ text }: { text: string | null }) =>
  text && (
    <span role="alert" className="field-fault" ref={bringIntoView}>
      {text}
    </span>
  );
