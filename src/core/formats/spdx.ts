import { DOMParser, type Element } from '@xmldom/xmldom';

import { good } from '../shape/result';
import { checkedPoints, LARGEST_SPECTRUM_TEXT, type Read, type ReadSpectrum, unread } from './table';

/** Spectral quantities of IES TM-27 that are a light; the others describe materials. */
const LIGHTS = ['flux', 'intensity', 'irradiance', 'radiance', 'exitance', 'relative', 'other'];

const lineOf = (node: { lineNumber?: number } | null | undefined) => node?.lineNumber ?? 0;

/** First child element of that name, whatever its namespace. */
const child = (parent: Element | null, name: string): Element | null => {
  for (let n = parent?.firstChild ?? null; n; n = n.nextSibling) {
    if (n.nodeType === 1 && ((n as Element).localName ?? n.nodeName) === name) return n as Element;
  }
  return null;
};

/**
 * Reads a spectral distribution of IES TM-27 (.spdx, editions 2014 and 2020): energy over wavelength in nm.
 */
export function parseSpdx(text: string): Read<ReadSpectrum> {
  if (text.length > LARGEST_SPECTRUM_TEXT)
    return unread(0, `the file has ${text.length} characters`, 'Choose a spectrum of at most 2 MB.');
  if (/<!DOCTYPE|<!ENTITY/i.test(text))
    return unread(0, 'the file defines entities of its own', 'Remove the DOCTYPE: a spectrum needs none.');
  let root: Element | null = null;
  try {
    root = new DOMParser({
      onError: (level) => {
        if (level === 'error') throw new Error('it is damaged');
      },
    }).parseFromString(text, 'text/xml').documentElement;
  } catch (error) {
    const { message, locator } = error as Error & { locator?: { lineNumber?: number } };
    return unread(
      locator?.lineNumber ?? 0,
      `this is not well-formed XML: ${message.split('\n')[0]}`,
      'Choose a .spdx file, or export it again.',
    );
  }
  const name = root?.localName ?? root?.nodeName ?? '';
  if (!root || !/^IESTM27/i.test(name)) {
    return unread(
      lineOf(root),
      `the document is "${name}", not IESTM2714`,
      'Choose a .spdx file of IES TM-27.',
    );
  }
  const spd = child(root, 'SpectralDistribution');
  if (!spd) return unread(lineOf(root), 'SpectralDistribution is missing', 'Export the file again.');
  const quantity = child(spd, 'SpectralQuantity');
  const said = quantity?.textContent?.trim().toLowerCase() ?? 'relative';
  if (!LIGHTS.includes(said)) {
    return unread(
      lineOf(quantity),
      `SpectralQuantity is "${said}", which is no light`,
      `Give one of ${LIGHTS.join(', ')}.`,
    );
  }
  const rows: { nm: number; value: number; line: number }[] = [];
  for (let n = spd.firstChild; n; n = n.nextSibling) {
    if (n.nodeType !== 1) continue;
    const element = n as Element;
    if ((element.localName ?? element.nodeName) !== 'SpectralData') continue;
    const line = lineOf(element);
    const at = element.getAttribute('wavelength');
    if (at === null || at.trim() === '')
      return unread(line, 'SpectralData has no wavelength', 'Give wavelength="…" in nm.');
    const nm = Number(at);
    const value = Number(element.textContent?.trim() || NaN);
    if (Number.isNaN(nm)) return unread(line, `wavelength "${at}" is no number`, 'Give nm as a number.');
    if (Number.isNaN(value)) return unread(line, `SpectralData at ${at} nm is no number`, 'Give a number.');
    rows.push({ nm, value, line });
  }
  const description = child(child(root, 'Header'), 'Description')?.textContent?.trim();
  const points = checkedPoints(rows);
  if (!points.ok) return points;
  return good({
    shape: 'table',
    points: points.value,
    quantity: 'energy',
    ...(description ? { description } : {}),
  });
}

const escape = (text: string) =>
  text.replace(/[<>&"']/g, (c) => `&#${c.charCodeAt(0)};`).replace(/[^\P{Cc}\n\t]/gu, '');

/**
 * Writes a spectrum as IES TM-27-14. The standard's values are energy.
 * @param points energy over wavelength in nm; @param dateIso when it was written, such as 2026-01-31
 */
export function spdx(
  points: readonly (readonly [number, number])[],
  description: string,
  dateIso: string,
): string {
  return `${[
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<IESTM2714 xmlns="http://www.ies.org/iestm2714" version="1.0">',
    '  <Header>',
    `    <Description>${escape(description)}</Description>`,
    '    <DocumentCreator>Chromatheca</DocumentCreator>',
    `    <DocumentCreationDate>${dateIso}</DocumentCreationDate>`,
    '  </Header>',
    '  <SpectralDistribution>',
    '    <SpectralQuantity>relative</SpectralQuantity>',
    ...points.map(([nm, v]) => `    <SpectralData wavelength="${nm}">${v}</SpectralData>`),
    '  </SpectralDistribution>',
    '</IESTM2714>',
  ].join('\n')}\n`;
}
