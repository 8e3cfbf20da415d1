import './fonts.css'
import { createGlobalStyle } from 'styled-components'
import { themeCSS } from './tokens'

export const GlobalStyle = createGlobalStyle`
  ${themeCSS}
  *, *::before, *::after { box-sizing: border-box; }
  html, body, #root { height: 100%; margin: 0; }
  @media screen { html, body { overflow-x: auto; overflow-y: clip; } }
  body {
    background: var(--bg); color: var(--text);
    font: 400 14px/1.4 var(--face-body);
    -webkit-font-smoothing: antialiased;
  }
  button, input, select, textarea { font: inherit; color: inherit; }
  h1, h2, h3, p, ul, ol { margin: 0; padding: 0; }
  ul, ol { list-style: none; }
  a { min-height: 24px; align-content: center; }
  :focus-visible, [data-focus-visible] { outline: 2px solid var(--focus); outline-offset: 2px; }
  ::selection { background: var(--focus); color: var(--bg); }
  @media (prefers-reduced-motion: reduce) { *, *::before, *::after { transition: none !important; animation: none !important; } }
  @media print { body { background: #fff; } }
`
