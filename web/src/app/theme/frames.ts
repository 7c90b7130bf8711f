/** A stage's frame where there is one column: one part under the other, each as high as it is. */
export const stacked = "display:flex;flex-direction:column;height:auto;min-height:0;gap:14px;";
