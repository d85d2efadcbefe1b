declare module 'pdfmake/build/pdfmake' {
  type Content = string | { [key: string]: unknown };
  export type DocumentDefinition = {
    info: { title: string };
    pageSize?: 'A4' | 'A5';
    pageMargins?: [number, number, number, number];
    defaultStyle: Record<string, unknown>;
    content: Content[];
  };
  const pdfMake: {
    addVirtualFileSystem(fonts: Record<string, unknown>): void;
    createPdf(document: DocumentDefinition): { download(name: string): Promise<void> };
  };
  export default pdfMake;
}
declare module 'pdfmake/build/vfs_fonts' {
  const fonts: Record<string, unknown>;
  export default fonts;
}
