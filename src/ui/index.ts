export { Bar, Progress } from './Bar';
export { Button, Key } from './Button';
export { cx } from './cx';
export { Ask, Panel } from './Dialog';
export { Field } from './Field';
export { Caution, Mark } from './Mark';
export { NumberText } from './Numbers';
export { Why } from './Why';
export { Select } from './Select';
