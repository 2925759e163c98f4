package ebb.api;

import java.math.BigDecimal;

/**
 * What something costs a month.
 *
 * @param amount below 0 where it costs less than before
 * @param currency as ISO 4217 has it
 */
public record PriceView(BigDecimal amount, String currency) {}
