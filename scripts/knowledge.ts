import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { KNOWLEDGE_TABLES, type Catalogue } from '@/core/catalogue';
import { packageDescriptor, readPackage, type PackageFile } from '@/core/package';
import { KNOWLEDGE_FOLDER } from './demo/files';

const DESCRIPTOR = `${KNOWLEDGE_FOLDER}datapackage.json`;

/** The package's own description, from its tables: written anew, so that both agree. */
export const writeKnowledgeDescriptor = (): void =>
  writeFileSync(
    DESCRIPTOR,
    `${JSON.stringify(packageDescriptor('sorter-knowledge', 'What the trade knows of washers, by design', KNOWLEDGE_TABLES), null, 1)}\n`,
  );

export function knowledgeFiles(): PackageFile[] {
  if (!existsSync(DESCRIPTOR)) writeKnowledgeDescriptor();
  return ['datapackage.json', ...KNOWLEDGE_TABLES.map((table) => `${table}.csv`)].map((path) => ({
    path,
    text: readFileSync(`${KNOWLEDGE_FOLDER}${path}`, 'utf8'),
  }));
}

/** The knowledge that ships with the application, read by the importer that reads anybody's package. Throws where a row is wrong. */
export function readKnowledge(): Catalogue {
  const { catalogue, problems } = readPackage(knowledgeFiles());
  if (problems.length)
    throw new Error(
      `The knowledge has problems:\n${problems
        .slice(0, 20)
        .map((problem) => JSON.stringify(problem))
        .join('\n')}`,
    );
  return catalogue;
}
