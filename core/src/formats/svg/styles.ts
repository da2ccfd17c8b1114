/** The little of CSS that drawing programs write into an SVG: rules for a class, an id or an element. */

export interface StyleRule {
  readonly selector: string;
  readonly properties: readonly (readonly [string, string])[];
}

/** `fill:#fff;stroke:none` in its parts. */
export function declarations(style: string): [string, string][] {
  return style.split(';').flatMap((declaration): [string, string][] => {
    const colon = declaration.indexOf(':');
    if (colon < 0) return [];
    const value = declaration
      .slice(colon + 1)
      .replace(/!important/i, '')
      .trim();
    return [[declaration.slice(0, colon).trim().toLowerCase(), value]];
  });
}

export function rulesOfStyleSheet(css: string): StyleRule[] {
  const bare = css.replace(/\/\*[\s\S]*?\*\//g, '');
  return [...bare.matchAll(/([^{}@]+)\{([^{}]*)\}/g)].flatMap(([, selectors, body]) =>
    selectors!.split(',').map((selector) => ({ selector: selector.trim(), properties: declarations(body!) })),
  );
}
