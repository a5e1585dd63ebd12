import { DOMParser } from 'linkedom';
import { expect, it } from 'vitest';
import { Theme } from './theme';

/** The value of a property of the element with `id="it"`. */
const style = (css: string, body: string, property = 'fill', theme = 'light') => {
  const root = new DOMParser().parseFromString(`<html data-theme="${theme}">${body}</html>`, 'text/xml');
  const element = (root as unknown as Document).querySelector('#it')!;
  return new Theme(css).styleOf(element, property);
};
const bar = '<g class="mark" data-state="lit" data-look="ember heavy"><rect class="bar" id="it"/></g>';

it('the more special rule wins, then the later one, and what an element says itself', () => {
  expect(style('.mark .bar { fill: red } .bar { fill: blue }', bar)).toBe('red');
  expect(style('.bar { fill: red } .bar { fill: blue }', bar)).toBe('blue');
  expect(style('.mark[data-look~="heavy"] .bar { fill: green } .mark .bar { fill: red }', bar)).toBe('green');
  expect(style('.bar { fill: red }', '<rect class="bar" id="it" style="fill: pink"/>')).toBe('pink');
  expect(style('', '<rect id="it" fill="none"/>')).toBe('none');
  expect(style('.bar { fill: red }', '<rect class="bar" id="it" fill="none"/>')).toBe('red');
});

it('what is inherited comes from what an element is in, and nothing else does', () => {
  expect(style('.mark { fill: red; opacity: 0.5 }', bar)).toBe('red');
  expect(style('.mark { opacity: 0.5 }', bar, 'opacity')).toBe('');
});

it('variables have the value of where they are declared, stand in for each other, and may not be there', () => {
  const css = `:root { --plain: grey; --ember: orange } [data-theme="dark"] { --ember: gold }
    [data-look~="ember"] { --look: var(--ember) } .bar { fill: var(--look, var(--plain)) }`;
  expect(style(css, bar)).toBe('orange');
  expect(style(css, bar, 'fill', 'dark')).toBe('gold');
  expect(style(css, '<rect class="bar" id="it"/>')).toBe('grey');
  expect(style('.bar { fill: var(--none) }', bar)).toBe('rgb(0, 0, 0)');
});

it('a colour that is mixed with nothing is seen through', () => {
  expect(style('.bar { fill: color-mix(in srgb, #ff8000 25%, transparent) }', bar)).toBe(
    'rgba(255, 128, 0, 0.25)',
  );
});

it('rules of some media or states of a page do not hold', () => {
  const css = `.bar { fill: red } @media print { .bar { fill: blue } } .bar:hover { fill: pink }
    .mark:not(.other) .bar { stroke: black }`;
  expect(style(css, bar)).toBe('red');
  expect(style(css, bar, 'stroke')).toBe('black');
});
