package ebb.standins;

import com.fasterxml.jackson.databind.JsonNode;

/**
 * A write that was carried out.
 *
 * @param what method and path: "POST /scim/v2/Users"
 * @param sent null if there was no body
 */
public record Write(String what, JsonNode sent) {}
