/// <reference types="vite/client" />
declare module '*.vue' {
  import type { DefineComponent } from 'vue'
  const component: DefineComponent<object, object, unknown>
  export default component
}
declare module 'plotly.js-cartesian-dist-min' {
  import type * as P from 'plotly.js-dist-min'
  export type { Annotations, Data, Layout, Config, PlotlyHTMLElement, Shape } from 'plotly.js-dist-min'
  const Plotly: typeof P
  export default Plotly
}
