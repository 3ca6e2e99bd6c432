/** A PostgreSQL server answered and didn't let this program in, or isn't believed to be itself; the message says what to do. */
export class NotLetIn extends Error {
  override readonly name = 'NotLetIn';
}

/** Codes of PostgreSQL (appendix A) and of Node's TLS, with what each asks a person to do. */
const REASONS: readonly (readonly [code: RegExp, words: string])[] = [
  [/^28P01$/, 'The database doesn’t take this password: look at the name and the password in DATABASE_URL.'],
  [/^28000$/, 'The database lets nobody of this name in from here (its pg_hba.conf says who may come, and how).'],
  [/^3D000$/, 'The PostgreSQL server has no database of that name: look at the end of DATABASE_URL.'],
  [
    /^ERR_TLS_CERT_ALTNAME_INVALID$/,
    'The database’s certificate is for another machine than DATABASE_URL names: use the name that is in it.',
  ],
  [/^CERT_HAS_EXPIRED$/, 'The database’s certificate has expired: whoever keeps the database has to renew it.'],
  [
    /^(UNABLE_TO_VERIFY_LEAF_SIGNATURE|UNABLE_TO_GET_ISSUER_CERT(_LOCALLY)?|SELF_SIGNED_CERT_IN_CHAIN|DEPTH_ZERO_SELF_SIGNED_CERT)$/,
    'The database’s certificate is from nobody this machine knows: name the studio’s own authority with NODE_EXTRA_CA_CERTS=/path/ca.crt.',
  ],
];

const WITHOUT_TLS =
  'The database lets nobody in without TLS: add ?sslmode=verify-full to DATABASE_URL, and NODE_EXTRA_CA_CERTS=/path/ca.crt for an authority of the studio’s own.';
const NO_TLS_THERE =
  'DATABASE_URL asks for TLS, and the database has none: have it switched on there (see docs/team.md), or take sslmode away where the network is trusted.';

function reasonFor(error: Error): string | null {
  // Both are told in words alone: one by PostgreSQL beside its code for all it lets nobody in for, one by its driver.
  if (/no pg_hba\.conf entry .*no encryption/i.test(error.message)) return WITHOUT_TLS;
  if (/server does not support SSL/i.test(error.message)) return NO_TLS_THERE;
  const { code } = error as NodeJS.ErrnoException;
  return REASONS.find(([each]) => each.test(code ?? ''))?.[1] ?? null;
}

/** The error in words a person can use, where a database that answers is why it can't be opened; null for any other. */
export function notLetIn(error: unknown): NotLetIn | null {
  for (let each = error; each instanceof Error; each = each.cause) {
    const reason = reasonFor(each);
    if (reason !== null) return new NotLetIn(reason, { cause: error });
  }
  return null;
}
