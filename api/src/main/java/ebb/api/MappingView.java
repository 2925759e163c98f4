package ebb.api;

import java.util.List;
import java.util.Map;

/**
 * How the columns of a file are read, or might be.
 *
 * @param source null until somebody says where the file comes from
 * @param key heading of the column that holds the stable key; null where none could be told
 * @param columns in their order
 * @param dateFormats every way in which all dates of the file can be read; where there are several,
 *     somebody must say which
 * @param computed attribute to expression
 * @param tables attribute to what the source's codes mean
 * @param kind csv, workbook, json lines or ldif
 * @param charset null where the format has its own; so separator and sheet
 */
public record MappingView(
    String source,
    String key,
    List<ColumnView> columns,
    String dateFormat,
    List<String> dateFormats,
    Map<String, String> computed,
    Map<String, Map<String, String>> tables,
    String kind,
    String charset,
    String separator,
    String sheet,
    List<String> sheets) {
  /**
   * One column.
   *
   * @param attribute null where it is not used
   * @param confidence in percent; 100 where somebody confirmed it
   * @param reason in words
   * @param examples the first values it holds
   */
  public record ColumnView(
      String heading, String attribute, int confidence, String reason, List<String> examples) {}
}
