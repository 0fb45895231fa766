import './field.css';

const bringIntoView = (shown: HTMLElement | null) => shown?.scrollIntoView({ block: 'nearest', inline: 'nearest' });

/** What is wrong with a field, below it; what scrolls makes room for it. */
export const FieldFault = ({ text }: { text: string | null }) =>
  text && (
    <span role="alert" className="field-fault" ref={bringIntoView}>
      {text}
    </span>
  );
