/* Stands for the forms of Ant Design: every field of it asks whether it is in one, and none of this page is. */
import { createContext, Fragment } from 'react';

export const FormProvider = Fragment;
export const FieldContext = createContext(null);
export const ListContext = createContext(null);

/** What only a form would use. */
function none(): never {
  throw new Error('There are no forms of Ant Design in this page. To use one, take the alias out of vite.config.ts.');
}
export { none as default, none as Field, none as List, none as useForm, none as useWatch };
