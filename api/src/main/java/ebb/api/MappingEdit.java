package ebb.api;

import java.util.Map;

/**
 * Says how a file is to be read; what is null stays as it was found.
 *
 * @param source where the file comes from
 * @param columns heading to attribute; headings that are left out are not used
 * @param complete whether people it does not name are missing
 * @param mode add-and-update, add-only or update-only
 * @param everyone attribute to a value for each row that says nothing of it: startDate for an
 *     opening date, endDate for an end date, userType for a kind of people
 */
public record MappingEdit(
    String source,
    String key,
    Map<String, String> columns,
    String dateFormat,
    Map<String, String> computed,
    Map<String, Map<String, String>> tables,
    String charset,
    String separator,
    String sheet,
    Boolean complete,
    String mode,
    Map<String, String> everyone) {}
