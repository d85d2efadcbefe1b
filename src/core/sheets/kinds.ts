/** What a spreadsheet may be a list of. */
export const SHEET_KINDS = ['models', 'parts', 'replaced', 'equal', 'prices', 'stock', 'customers'] as const;
export type SheetKind = (typeof SHEET_KINDS)[number];

/** What a column may be. */
export const SHEET_FIELDS = [
  'model',
  'make',
  'built',
  'from',
  'to',
  'capacity',
  'spin',
  'part',
  'partName',
  'position',
  'quantity',
  'newPart',
  'price',
  'pack',
  'stock',
  'days',
  'supplierNumber',
  'name',
  'phone',
  'place',
] as const;
export type SheetField = (typeof SHEET_FIELDS)[number];

/** Which column (by its header) holds what. */
export type SheetMapping = { [F in SheetField]?: string | undefined };

type KindSpec = { needs: readonly SheetField[]; may: readonly SheetField[] };

/** What a list of each kind must have, and what else it may say. */
export const KIND_FIELDS: Record<SheetKind, KindSpec> = {
  models: { needs: ['model'], may: ['make', 'built', 'from', 'to', 'capacity', 'spin'] },
  parts: { needs: ['model', 'part'], may: ['partName', 'position', 'quantity', 'make'] },
  replaced: { needs: ['part', 'newPart'], may: ['partName', 'quantity'] },
  equal: { needs: ['part', 'newPart'], may: ['partName'] },
  prices: { needs: ['part', 'price'], may: ['partName', 'supplierNumber', 'pack', 'stock', 'days'] },
  stock: { needs: ['part', 'stock'], may: ['partName', 'price'] },
  customers: { needs: ['name'], may: ['phone', 'place'] },
};

export const fieldsOf = (kind: SheetKind): readonly SheetField[] => [
  ...KIND_FIELDS[kind].needs,
  ...KIND_FIELDS[kind].may,
];

/** Words by which people call their columns, in English, German and French. */
const CALLED: Record<SheetField, RegExp> = {
  model: /model|modell|mod[èe]le|ger[äa]te?(typ|nr)|machine|type ?(no|nr)|^typ$/i,
  make: /make|brand|maker|manufactur|marke|marque|hersteller|fabricant/i,
  built: /design|kind|drive|bauart|antrieb|construction|genre|loading|lad(er|ung)/i,
  from: /(from|since|start|first|von|ab|depuis|d[ée]but).*(year|built|prod|jahr|ann[ée]e)?|baujahr.*von|production from/i,
  to: /(until|till|end|last|bis|jusqu|fin)\b.*|baujahr.*bis|production to|^to\b/i,
  capacity: /capacity|load|kg|f[üu]llmenge|beladung|capacit[ée]|charge/i,
  spin: /spin|rpm|schleuder|essorage|u\/min/i,
  newPart:
    /(new|now|replac|success|nachfolge|neu|ersatz|remplac|nouve).*(n[or°]|number|nummer|part|code|teil|r[ée]f)?|superseded by|equival|cross|alternativ|gleich|interchang/i,
  part: /part|oem|article|artikel|teile?|ersatzteil|pi[èe]ce|r[ée]f[ée]rence|(old|alt|ancien).*(n[or°]|number|nummer)|^number$|^nummer$|^mpn$|^sku$/i,
  partName: /descr|name|bezeichnung|benennung|d[ée]signation|libell[ée]|text|what/i,
  position: /position|place|lage|side|seite|c[ôo]t[ée]/i,
  quantity: /quantity|qty|menge|anzahl|quantit[ée]|pieces|st[üu]ck/i,
  price: /price|preis|prix|cost|net+o?\b|^ek$/i,
  pack: /pack|^ve$|verpackung|colis|moq/i,
  stock: /stock|bestand|lager|on hand|available|disponib|count/i,
  days: /lead|days|tage|lieferzeit|d[ée]lai/i,
  supplierNumber: /(our|supplier|vendor|order|bestell|lieferant).*(n[or°]|number|nummer|code|ref)/i,
  name: /customer|name|kunde|client|nom/i,
  phone: /phone|tel|mobil|handy/i,
  place: /address|place|town|city|street|ort|stra[ßs]|adresse|ville|wohn/i,
};

/** Fields whose words are narrow come first: a column is taken once. */
const ORDER: readonly SheetField[] = [
  'supplierNumber',
  'newPart',
  'phone',
  'capacity',
  'spin',
  'partName',
  'price',
  'pack',
  'stock',
  'days',
  'quantity',
  'position',
  'make',
  'built',
  'model',
  'part',
  'name',
  'place',
  'from',
  'to',
];

/** Proposes which column is what for a kind of list. Each column is taken once. O(fields × columns). */
export function guessColumns(kind: SheetKind, header: readonly string[]): SheetMapping {
  const mapping: SheetMapping = {};
  const taken = new Set<string>();
  const wanted = fieldsOf(kind);
  for (const field of ORDER) {
    if (!wanted.includes(field)) continue;
    // "Old number" is the part that was, not the new one; "part name" is no number.
    const found = header.find((name) => {
      const plain = name.trim();
      if (taken.has(name) || !CALLED[field].test(plain)) return false;
      if (field === 'newPart') return !/\b(old|alt|ancien)/i.test(plain);
      if (field === 'partName')
        return !/(n[or°]\.?|number|nummer|code)$/i.test(plain) && !/model|customer|kunde/i.test(plain);
      return field !== 'part' || !/descr|bezeichn|d[ée]sign/i.test(plain);
    });
    if (found === undefined) continue;
    mapping[field] = found;
    taken.add(found);
  }
  return mapping;
}

const complete = (kind: SheetKind, mapping: SheetMapping): boolean =>
  KIND_FIELDS[kind].needs.every((field) => mapping[field] !== undefined);

/** The kind of list that explains most columns, of those whose needed columns are there; null where none is complete. A proposal. */
export function guessKind(header: readonly string[]): SheetKind | null {
  const scored = SHEET_KINDS.map((kind) => {
    const mapping = guessColumns(kind, header);
    const explained = Object.values(mapping).length;
    const needed = KIND_FIELDS[kind].needs.length;
    return { kind, score: complete(kind, mapping) ? explained + needed / 2 : 0 };
  });
  // "Replaced by" and "equal to" have the same columns; only their words tell them apart.
  const equal = header.some((name) => /equival|cross|alternativ|gleich|interchang/i.test(name));
  const best = scored
    .filter(({ kind, score }) => score > 0 && (kind !== 'replaced' || !equal) && (kind !== 'equal' || equal))
    .sort((a, b) => b.score - a.score)[0];
  return best?.kind ?? null;
}

export const isComplete = complete;
