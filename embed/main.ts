// Charts and levers for other pages: importing this defines their elements.
import { ChartElement } from './chart-element';
import { LeverElement } from './lever-element';

export { ChartElement, LeverElement };

/** A page may have it twice: the first one stays. */
const define = (name: string, element: CustomElementConstructor) => {
  if (!customElements.get(name)) customElements.define(name, element);
};
define('sorvik-chart', ChartElement);
define('sorvik-lever', LeverElement);
