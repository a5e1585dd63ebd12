/** What a part of a chart is called for whoever looks for it by `data-part`: `sv-text sv-guide` is the part `text guide`. */
export const partName = (className: string): string => className.replaceAll('sv-', '');
