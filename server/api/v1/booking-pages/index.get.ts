export default defineRoute('GET /booking-pages', ({ workspace }) => ({ pages: [...workspace.store.booking.pages()] }))
