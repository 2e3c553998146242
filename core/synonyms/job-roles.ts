/** Who people are at work, by what they write on their cards. */
export const JOB_ROLES: readonly (readonly string[])[] = [
  ['Managing director', 'MD', 'CEO', 'Chief executive', 'Chief executive officer', 'General manager', 'Geschäftsführer', 'Geschäftsführerin', 'Directeur général', 'Diretor-geral', 'Gerente'],
  ['Owner', 'Proprietor', 'Founder', 'Co-founder', 'Inhaber', 'Inhaberin', 'Proprietário', 'Propriétaire'],
  ['Head of finance', 'CFO', 'Chief financial officer', 'Finance director', 'Financial controller'],
  ['Head of operations', 'COO', 'Chief operating officer', 'Operations director', 'Operations manager'],
  ['Buyer', 'Purchaser', 'Procurement manager', 'Purchasing manager', 'Head of procurement', 'Einkäufer', 'Acheteur', 'Comprador'],
  ['Head of IT', 'CIO', 'CTO', 'IT manager', 'IT director', 'Chief information officer', 'Chief technology officer'],
  ['Head of marketing', 'CMO', 'Marketing director', 'Marketing manager', 'Chief marketing officer'],
  ['Head of sales', 'Sales director', 'Sales manager', 'Commercial director'],
  ['Site manager', 'Facility manager', 'Facilities manager', 'Plant manager', 'Branch manager'],
  ['Assistant', 'PA', 'EA', 'Personal assistant', 'Executive assistant', 'Secretary', 'Office manager'],
]
