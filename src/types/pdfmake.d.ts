declare module 'pdfmake/build/pdfmake' {
  const pdfMake: {
    addVirtualFileSystem(fonts: Record<string, unknown>): void;
    createPdf(document: { content: readonly unknown[] }): { download(name: string): Promise<void> };
  };
  export default pdfMake;
}
declare module 'pdfmake/build/vfs_fonts' {
  const fonts: Record<string, unknown>;
  export default fonts;
}
