/** The first rows of somebody's list, as they stand in it. */
export function SampleTable({ header, sample }: { header: readonly string[]; sample: readonly (readonly string[])[] }) {
  return (
    <div className="max-w-full overflow-x-auto" tabIndex={0} role="region" aria-label="First rows of the list">
      <table className="text-sm">
        <thead>
          <tr className="border-b border-ink text-left">
            {header.map((name) => (
              <th key={name} className="py-1 pr-4 font-semibold whitespace-nowrap">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sample.map((row, index) => (
            <tr key={index} className="border-b border-line">
              {header.map((name, column) => (
                <td key={name} className="max-w-60 truncate py-1 pr-4 font-mono">
                  {row[column] ?? ''}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
