/* The script of a live page. */
import { mount, type Handed } from './mount';

// The data stand before this script, and the element before them: so several pieces can stand on one page.
const data = document.currentScript?.previousElementSibling;
const element = data?.previousElementSibling;
if (element instanceof HTMLElement && data?.textContent) {
  const { methods } = mount(element, JSON.parse(data.textContent) as Handed, (detail) =>
    element.dispatchEvent(new CustomEvent('statechange', { detail, bubbles: true })),
  );
  const { set } = element.dataset;
  if (set) methods.set(JSON.parse(set) as Record<string, unknown>);
  Object.defineProperties(element, Object.getOwnPropertyDescriptors(methods));
}
