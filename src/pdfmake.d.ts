declare module 'pdfmake/build/pdfmake' {
  import type { TDocumentDefinitions } from 'pdfmake/interfaces';
  const pdfMake: {
    addVirtualFileSystem(fonts: Record<string, unknown>): void;
    createPdf(document: TDocumentDefinitions): { download(name: string): Promise<void> };
  };
  export default pdfMake;
}
declare module 'pdfmake/build/vfs_fonts' {
  const fonts: Record<string, unknown>;
  export default fonts;
}
declare module 'pdfmake/interfaces' {
  export type Content = string | { [key: string]: unknown };
  export type TDocumentDefinitions = { info?: { title: string }; defaultStyle?: Record<string, unknown>; content: Content[] };
}
