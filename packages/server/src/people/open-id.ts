import * as client from 'openid-client';
import { roles, type Role } from '@gull-pane/protocol/roles';
import { StartError } from '../start-error.ts';
import type { Person } from './person.ts';

/** A service that people sign in at, with OpenID Connect. */
export interface OpenIdSettings {
  readonly issuer: string;
  readonly clientId: string;
  readonly clientSecret: string;
  /** The claim that holds what somebody may do. */
  readonly rolesClaim: string;
  /** What people may do whom the claim gives nothing; null if they are refused. */
  readonly usualRole: Role | null;
}

/** What has to be known again when somebody comes back. */
export interface SignInBegun {
  readonly state: string;
  readonly nonce: string;
  readonly verifier: string;
  /** Where in the application they wanted to go. */
  readonly to: string;
}

const ROLE = new RegExp(`^(?:gull-pane[-:/.])?(${roles.join('|')})$`);
const MOST_NAME = 80;

/** Sign-in with the authorization code flow and a proof key (OpenID Connect Core 1.0, 3.1; RFC 7636). */
export class OpenId {
  #found: Promise<client.Configuration> | null = null;

  constructor(private readonly settings: OpenIdSettings) {}

  /** @returns where to send somebody who wants to sign in, and what has to be kept until they come back */
  async begin(callback: URL, to: string): Promise<{ readonly url: URL; readonly begun: SignInBegun }> {
    const found = await this.#configuration();
    const begun = {
      state: client.randomState(),
      nonce: client.randomNonce(),
      verifier: client.randomPKCECodeVerifier(),
    };
    const url = client.buildAuthorizationUrl(found, {
      redirect_uri: callback.href,
      scope: 'openid profile email',
      code_challenge: await client.calculatePKCECodeChallenge(begun.verifier),
      code_challenge_method: 'S256',
      state: begun.state,
      nonce: begun.nonce,
    });
    return { url, begun: { ...begun, to } };
  }

  /**
   * @param came the address that somebody came back to
   * @returns who it is; null if they are known and may do nothing here
   * @throws if the answer of the service or the address doesn't keep to the protocol
   */
  async end(came: URL, { state, nonce, verifier }: SignInBegun): Promise<Person | null> {
    const answer = await client.authorizationCodeGrant(await this.#configuration(), came, {
      pkceCodeVerifier: verifier,
      expectedState: state,
      expectedNonce: nonce,
      idTokenExpected: true,
    });
    const claims = answer.claims()!;
    const role = this.#roleOf(claims[this.settings.rolesClaim]);
    if (role === null) return null;
    const name = [claims.name, claims.preferred_username, claims.email, claims.sub].find(
      (one): one is string => typeof one === 'string' && one.trim() !== '',
    )!;
    return { id: claims.sub, name: name.trim().slice(0, MOST_NAME), role };
  }

  /** The most that any of the claim's values allows. */
  #roleOf(claim: unknown): Role | null {
    const named = [claim].flat().flatMap((value) => (typeof value === 'string' ? (ROLE.exec(value)?.[1] ?? []) : []));
    return [...roles].reverse().find((role) => named.includes(role)) ?? this.settings.usualRole;
  }

  /** Found out once; again if the service couldn't be reached. */
  #configuration(): Promise<client.Configuration> {
    const { issuer, clientId, clientSecret } = this.settings;
    const url = new URL(issuer);
    this.#found ??= client
      // without TLS only on this machine, such as in tests
      .discovery(url, clientId, clientSecret, undefined, {
        execute: [
          // the signature of what it says, too, not only that it came from there
          client.enableNonRepudiationChecks,
          // oxlint-disable-next-line typescript/no-deprecated -- marked so that nobody uses it elsewhere
          ...(url.protocol === 'http:' ? [client.allowInsecureRequests] : []),
        ],
      })
      .catch((error: unknown) => {
        this.#found = null;
        throw error;
      });
    return this.#found;
  }
}

/** @returns null where no service is set @throws StartError if settings are missing or wrong */
export function openIdSettings(env: NodeJS.ProcessEnv): OpenIdSettings | null {
  const issuer = env.GULL_PANE_OIDC_ISSUER ?? '';
  if (issuer === '') return null;
  if (!URL.canParse(issuer) || !/^https?:$/.test(new URL(issuer).protocol))
    throw new StartError('GULL_PANE_OIDC_ISSUER must be an address such as https://sign-in.example/office.');
  const isHere = /^(localhost|127(\.\d+){3}|\[::1\])$/.test(new URL(issuer).hostname);
  if (new URL(issuer).protocol === 'http:' && !isHere)
    throw new StartError('GULL_PANE_OIDC_ISSUER must begin with https:// for a service on another machine.');
  const missing = ['GULL_PANE_OIDC_CLIENT_ID', 'GULL_PANE_OIDC_CLIENT_SECRET'].filter((name) => !env[name]);
  if (missing.length > 0) throw new StartError(`GULL_PANE_OIDC_ISSUER needs ${missing.join(' and ')}, too.`);
  const usual = env.GULL_PANE_OIDC_USUAL_ROLE ?? 'look';
  if (usual !== 'none' && !roles.includes(usual as Role))
    throw new StartError(`GULL_PANE_OIDC_USUAL_ROLE must be one of none, ${roles.join(', ')}, got “${usual}”.`);
  return {
    issuer,
    clientId: env.GULL_PANE_OIDC_CLIENT_ID!,
    clientSecret: env.GULL_PANE_OIDC_CLIENT_SECRET!,
    rolesClaim: env.GULL_PANE_OIDC_ROLES_CLAIM ?? 'roles',
    usualRole: usual === 'none' ? null : (usual as Role),
  };
}
