import { tableNames, tables } from '../catalogue/tables';

/** The datapackage.json of a catalogue: Frictionless Data Package 1.0 with a Table Schema for every file. */
export function packageDescriptor(name: string, title: string) {
  return {
    profile: 'tabular-data-package',
    name,
    title,
    resources: tableNames.map((table) => {
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
          foreignKeys: Object.entries(refs)
            .filter(([column]) => column.endsWith('Id'))
            .map(([column, target]) => ({ fields: column, reference: { resource: target, fields: 'id' } })),
        },
      };
    }),
  };
}
