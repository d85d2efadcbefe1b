import { tableNames, tables, type TableName } from '../catalogue/tables';

/** The references that a reader of the standard can check by itself: single ids. Lists of ids and words beside ids are ours to check. None is left out rather than empty. */
function foreignKeysOf(refs: Readonly<Record<string, string>>, table: TableName, within: readonly string[]) {
  const spec = tables[table];
  const words: string[] = 'words' in spec ? Object.keys(spec.words) : [];
  const keys = Object.entries(refs)
    .filter(([column, resource]) => column.endsWith('Id') && !words.includes(column) && within.includes(resource))
    .map(([column, resource]) => ({ fields: column, reference: { resource, fields: 'id' } }));
  return keys.length ? { foreignKeys: keys } : {};
}

/**
 * The datapackage.json of a catalogue: Frictionless Data Package 1.0 with a Table Schema for every file. `within`: the tables that it has; what refers to one
 * that lies in the layer below is not said to the standard's readers, who see only the package.
 */
export function packageDescriptor(
  name: string,
  title: string,
  within: readonly TableName[] = tableNames,
  version = '',
) {
  return {
    profile: 'tabular-data-package',
    name,
    title,
    ...(version ? { version } : {}),
    resources: within.map((table) => {
      const { columns, key, refs } = tables[table];
      return {
        name: table,
        path: `${table}.csv`,
        profile: 'tabular-data-resource',
        format: 'csv',
        mediatype: 'text/csv',
        encoding: 'utf-8',
        schema: {
          fields: Object.entries(columns.shape).map(([column, schema]) => {
            const meta = schema.meta() ?? {};
            const options = Array.isArray(meta['options']) ? meta['options'] : undefined;
            const constraints = {
              ...(meta['required'] ? { required: true } : {}),
              ...(options ? { enum: options } : {}),
            };
            return {
              name: column,
              type: String(meta['type'] ?? 'string'),
              ...(Object.keys(constraints).length ? { constraints } : {}),
            };
          }),
          primaryKey: [...key],
          ...foreignKeysOf(refs, table, within),
        },
      };
    }),
  };
}
