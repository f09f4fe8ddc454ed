global using System.Globalization;
global using FirstCoat.Core;
global using FirstCoat.Store;
global using FirstCoat.Store.Access;
global using Microsoft.EntityFrameworkCore;
global using NodaTime;
