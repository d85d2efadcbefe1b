export function benchIdentify(): void {}
