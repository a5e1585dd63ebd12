import type {
  AuditEntry,
  BoardLink,
  Followed,
  GroupView,
  InvitationView,
  LinkView,
  MeView,
  PersonTokenView,
  PersonView,
  RightView,
  RowRuleView,
  SessionView,
  TriedRule,
  WhoMayView,
} from '@sorvik/core/board/api-types';
import { api } from './api';

type Thing = 'board' | 'dataset';

/** Who is signed in, who else there is, and who may do what. */
export const peopleApi = api
  .enhanceEndpoints({ addTagTypes: ['Me', 'Person', 'Group', 'Link', 'Right', 'Rule', 'PersonToken'] })
  .injectEndpoints({
    endpoints: (build) => ({
      me: build.query<MeView, void>({ query: () => 'me', providesTags: ['Me'] }),
      signIn: build.mutation<MeView, { email: string; password: string }>({
        query: (body) => ({ url: 'sign-in', method: 'POST', body }),
      }),
      forgotten: build.mutation<void, string>({
        query: (email) => ({ url: 'sign-in/forgotten', method: 'POST', body: { email } }),
      }),
      setOut: build.mutation<{ address: string }, void>({
        query: () => ({ url: 'sign-in/provider', method: 'POST' }),
      }),
      comeBack: build.mutation<MeView, string>({
        query: (search) => ({ url: 'sign-in/provider/back', method: 'POST', body: { search } }),
      }),
      signOut: build.mutation<void, void>({ query: () => ({ url: 'sign-out', method: 'POST' }) }),
      changePassword: build.mutation<void, { now: string; password: string }>({
        query: (body) => ({ url: 'me/password', method: 'PUT', body }),
        invalidatesTags: ['Me'],
      }),
      sessions: build.query<SessionView[], void>({ query: () => 'me/sessions', providesTags: ['Me'] }),
      endSession: build.mutation<void, string>({
        query: (id) => ({ url: `me/sessions/${id}`, method: 'DELETE' }),
        invalidatesTags: ['Me'],
      }),
      invitation: build.query<InvitationView, string>({
        query: (token) => ({ url: 'invitations/look', method: 'POST', body: { token } }),
      }),
      takeInvitation: build.mutation<
        MeView,
        { token: string; email?: string; name?: string; password: string }
      >({ query: (body) => ({ url: 'invitations/take', method: 'POST', body }) }),
      people: build.query<PersonView[], void>({ query: () => 'people', providesTags: ['Person'] }),
      invite: build.mutation<LinkView, { owner: boolean }>({
        query: (body) => ({ url: 'people/invitations', method: 'POST', body }),
      }),
      resetPassword: build.mutation<LinkView, string>({
        query: (id) => ({ url: `people/${id}/reset`, method: 'POST' }),
      }),
      changePerson: build.mutation<PersonView, { id: string; owner?: boolean; off?: boolean }>({
        query: ({ id, ...body }) => ({ url: `people/${id}`, method: 'PATCH', body }),
        invalidatesTags: ['Person'],
      }),
      links: build.query<BoardLink[], string>({
        query: (board) => `boards/${board}/links`,
        providesTags: ['Link'],
      }),
      makeLink: build.mutation<
        { path: string; link: BoardLink },
        {
          board: string;
          name: string;
          days: number | null;
          password?: string;
          positions?: string;
          fixed?: string[];
          origins?: string[];
        }
      >({
        query: ({ board, ...body }) => ({ url: `boards/${board}/links`, method: 'POST', body }),
        invalidatesTags: ['Link'],
      }),
      withdrawLink: build.mutation<void, { board: string; link: string }>({
        query: ({ board, link }) => ({ url: `boards/${board}/links/${link}`, method: 'DELETE' }),
        invalidatesTags: ['Link'],
      }),
      followLink: build.mutation<Followed, { token: string; password?: string }>({
        query: (body) => ({ url: 'links/follow', method: 'POST', body }),
      }),
      personTokens: build.query<PersonTokenView[], void>({
        query: () => 'me/tokens',
        providesTags: ['PersonToken'],
      }),
      makePersonToken: build.mutation<
        PersonTokenView & { token: string },
        { name: string; scope: PersonTokenView['scope']; days: number }
      >({
        query: (body) => ({ url: 'me/tokens', method: 'POST', body }),
        invalidatesTags: ['PersonToken'],
      }),
      withdrawPersonToken: build.mutation<void, string>({
        query: (id) => ({ url: `me/tokens/${id}`, method: 'DELETE' }),
        invalidatesTags: ['PersonToken'],
      }),
      groups: build.query<GroupView[], void>({ query: () => 'groups', providesTags: ['Group'] }),
      makeGroup: build.mutation<GroupView, string>({
        query: (name) => ({ url: 'groups', method: 'POST', body: { name } }),
        invalidatesTags: ['Group'],
      }),
      setGroup: build.mutation<GroupView, { id: string; people: string[] }>({
        query: ({ id, people }) => ({ url: `groups/${id}/people`, method: 'PUT', body: { people } }),
        invalidatesTags: ['Group'],
      }),
      removeGroup: build.mutation<void, string>({
        query: (id) => ({ url: `groups/${id}`, method: 'DELETE' }),
        invalidatesTags: ['Group', 'Right'],
      }),
      rule: build.query<RowRuleView, string>({
        query: (id) => `datasets/${id}/rule`,
        providesTags: ['Rule'],
      }),
      setRule: build.mutation<RowRuleView, { id: string; rule: string | null }>({
        query: ({ id, rule }) => ({ url: `datasets/${id}/rule`, method: 'PUT', body: { rule } }),
        invalidatesTags: ['Rule'],
      }),
      triedRule: build.query<TriedRule, { id: string; person: string; rule?: string }>({
        query: ({ id, ...body }) => ({ url: `datasets/${id}/rule/try`, method: 'POST', body }),
        keepUnusedDataFor: 0,
        providesTags: ['Rule', 'Group'],
      }),
      rights: build.query<RightView[], { kind: Thing; id: string }>({
        query: ({ kind, id }) => `${kind}s/${id}/rights`,
        providesTags: ['Right'],
      }),
      who: build.query<WhoMayView, { kind: Thing; id: string }>({
        query: ({ kind, id }) => `${kind}s/${id}/who`,
        providesTags: ['Right', 'Board', 'Dataset'],
      }),
      changeRight: build.mutation<
        RightView[],
        { kind: Thing; id: string; grantee: string; role: RightView['role'] | null }
      >({
        query: ({ kind, id, ...body }) => ({ url: `${kind}s/${id}/rights`, method: 'PUT', body }),
        invalidatesTags: ['Right'],
      }),
      audit: build.query<AuditEntry[], { text: string; before?: number }>({
        query({ text, before }) {
          const asked = new URLSearchParams();
          if (text) asked.set('text', text);
          if (before !== undefined) asked.set('before', String(before));
          return `audit?${asked}`;
        },
        keepUnusedDataFor: 0,
      }),
    }),
  });

export const {
  useMeQuery,
  useWhoQuery,
  useSignInMutation,
  useForgottenMutation,
  useSetOutMutation,
  useComeBackMutation,
  useSignOutMutation,
  useChangePasswordMutation,
  useSessionsQuery,
  useEndSessionMutation,
  useInvitationQuery,
  useTakeInvitationMutation,
  usePeopleQuery,
  useInviteMutation,
  useResetPasswordMutation,
  useChangePersonMutation,
  useGroupsQuery,
  usePersonTokensQuery,
  useMakePersonTokenMutation,
  useWithdrawPersonTokenMutation,
  useLinksQuery,
  useMakeLinkMutation,
  useWithdrawLinkMutation,
  useFollowLinkMutation,
  useMakeGroupMutation,
  useSetGroupMutation,
  useRemoveGroupMutation,
  useRuleQuery,
  useSetRuleMutation,
  useTriedRuleQuery,
  useRightsQuery,
  useChangeRightMutation,
  useAuditQuery,
} = peopleApi;
