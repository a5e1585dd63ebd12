/** What texts of charts are written in: the font of the page, and what stands in for it until it is there. */
export const fontFamily = "'Atkinson Hyperlegible Next Variable', 'DejaVu Sans', sans-serif";
