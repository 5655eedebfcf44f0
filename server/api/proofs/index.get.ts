/** What is known of the audit trail, of originals and of backups. */
export default defineRoute(() => useServices().proofs.state())
