package ebb.connectors.ldap;

import static org.assertj.core.api.Assertions.assertThat;

import com.unboundid.ldap.sdk.DN;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class EntriesTest {
  @DataProvider
  Object[][] names() {
    return new Object[][] {
      {"uid=Ada.Finch,ou=People,dc=skerrow,dc=example"},
      {"uid=ada-finch_2@x,ou=people,dc=skerrow,dc=example"},
      {"cn=Ada Finch,ou=people,dc=skerrow,dc=example"},
      {"cn=Ada  Finch,ou=people,dc=skerrow,dc=example"},
      {"cn= Ada Finch ,ou=people,dc=skerrow,dc=example"},
      {"cn=Ada Finch, ou=people, dc=skerrow, dc=example"},
      {"cn=Ada\\, Finch,ou=people,dc=skerrow,dc=example"},
      {"cn=\\#Ada\\+B,ou=people,dc=skerrow,dc=example"},
      {"cn=Ada+uid=ada,ou=people,dc=skerrow,dc=example"},
      {"cn=Åda Finch,ou=people,dc=skerrow,dc=example"},
      {"cn=a=b,ou=people,dc=skerrow,dc=example"},
      {"cn=,ou=people,dc=skerrow,dc=example"},
      {"cn=trailing\\ ,ou=people,dc=skerrow,dc=example"},
    };
  }

  @Test(dataProvider = "names")
  public void aNameIsNormalisedAsTheLibraryDoesIt(String name) throws Exception {
    assertThat(Entries.normal(name)).isEqualTo(DN.normalize(name));
  }
}
