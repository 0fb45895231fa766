/* The plain one: the others of its folder are not loaded with it. */
export { default as Input } from 'antd/es/input/Input';
export type { InputProps, InputRef } from 'antd';
