/** Of the attributes that are not in the specification. */
export const OUR_NAMESPACE = 'urn:wily-scissor:openraster'
