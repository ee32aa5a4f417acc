using System.Text;
using System.Xml;

namespace BrightTier.Core.Model;

/// <summary>Texts as XML 1.0 holds them (section 2.2): characters it cannot hold are left out, everything else stays.</summary>
public static class XmlCharacters
{
    public static string Sound(string text)
    {
        var sound = new StringBuilder(text.Length);
        for (var i = 0; i < text.Length; i++)
        {
            if (i + 1 < text.Length && XmlConvert.IsXmlSurrogatePair(text[i + 1], text[i]))
            {
                sound.Append(text[i]).Append(text[++i]);
            }
            else if (XmlConvert.IsXmlChar(text[i]))
            {
                sound.Append(text[i]);
            }
        }

        return sound.ToString();
    }
}
