/** Where the audit trail ends now, signed: what a printed report carries. */
export default defineRoute(async () => ({ head: await useServices().proofs.head() }))
