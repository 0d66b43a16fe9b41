import { object, string, type InferType } from 'yup';
import { idField, textField } from './fields.js';
import { isZone } from './zones.js';

const emailField = string().trim().email('Write an e-mail address such as name@studio.example.').max(254);

/** What signing in sends. */
export const signInSchema = object({
  email: emailField.required('Your e-mail address is missing.'),
  password: string().max(256).required('Your password is missing.'),
}).exact();

/** What opening a studio sends. Length counts, not rules (NIST SP 800-63B, from memory). */
export const accountSchema = object({
  id: idField.required(),
  studioId: idField.required(),
  email: emailField.required('Your e-mail address is missing.'),
  password: string()
    .min(12, 'A password has at least 12 characters.')
    .max(256)
    .required('A password is missing.'),
  name: textField('Your name', 120).required('Your name is missing.'),
  studioName: textField('The studio’s name', 120).required('The studio’s name is missing.'),
  zone: string()
    .required()
    .test('zone', 'Choose a time zone such as Europe/Berlin.', (zone) => isZone(zone)),
}).exact();

const passwordField = string().max(256).required('Your password is missing.');

/** A new password, with the one that holds. */
export const passwordChangeSchema = object({
  current: passwordField,
  next: string()
    .min(12, 'A password has at least 12 characters.')
    .max(256)
    .required('The new password is missing.'),
}).exact();

/** Removing a studio is confirmed by its password. */
export const studioRemovalSchema = object({ password: passwordField }).exact();

/** A new password, as a type. */
export type PasswordChange = InferType<typeof passwordChangeSchema>;
/** What signing in sends, as a type. */
export type SignIn = InferType<typeof signInSchema>;
/** What opening a studio sends, as a type. */
export type AccountInput = InferType<typeof accountSchema>;

/** Who is signed in, and the token every changing request must carry. */
export interface SessionView {
  readonly csrfToken: string;
  readonly instructor: {
    readonly studioId: string;
    readonly name: string;
    readonly studioName: string;
    readonly zone: string;
    readonly vocabulary: 'us' | 'uk';
  } | null;
  /** Shown on the sign-in page in demo mode only. */
  readonly demo: { readonly email: string; readonly password: string } | null;
}
